// The cabinet in space: light, eye, and boards pulled apart.

import {
  AmbientLight,
  BufferGeometry,
  DirectionalLight,
  DoubleSide,
  EdgesGeometry,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshLambertMaterial,
  PerspectiveCamera,
  Scene as Space,
  Vector3,
  WebGLRenderer,
} from "three";
import { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";
import type { CabinetView } from "../../api/client";
import { geometry } from "./mesh";

export type Scene = {
  show: (cabinet: CabinetView, apart: number, off: Set<string>) => void;
  turn: (sideways: number, up: number) => void;
  close: () => void;
};

/** Opens a picture in an element; nothing where the browser has no WebGL. */
export function openScene(holder: HTMLElement): Scene | undefined {
  let renderer: WebGLRenderer;
  try {
    renderer = new WebGLRenderer({ antialias: true, alpha: true });
  } catch {
    return undefined;
  }
  renderer.setPixelRatio(Math.min(devicePixelRatio, 2));
  holder.append(renderer.domElement);
  const space = new Space();
  const camera = new PerspectiveCamera(32, 1, 10, 40000);
  space.add(new AmbientLight(0xffffff, 1.5));
  const lamp = new DirectionalLight(0xffffff, 1.8);
  space.add(lamp);
  const controls = new OrbitControls(camera, renderer.domElement);
  controls.enablePan = false;
  let group = new Group();
  space.add(group);
  let size = 0;
  const colour = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

  const draw = () => {
    lamp.position.copy(camera.position).add(new Vector3(0, 800, 0));
    renderer.render(space, camera);
  };
  const fit = () => {
    const { clientWidth: w, clientHeight: h } = holder;
    if (!w || !h) return;
    renderer.setSize(w, h);
    camera.aspect = w / h;
    camera.updateProjectionMatrix();
    draw();
  };
  const watching = new ResizeObserver(fit);
  watching.observe(holder);
  controls.addEventListener("change", draw);

  const empty = () => {
    group.traverse((thing) => {
      if (thing instanceof Mesh || thing instanceof LineSegments) {
        (thing.geometry as BufferGeometry).dispose();
        (thing.material as MeshLambertMaterial).dispose();
      }
    });
    space.remove(group);
  };

  return {
    show(cabinet, apart, off) {
      empty();
      group = new Group();
      const [w, h, d] = cabinet.outside_mm as [number, number, number];
      const middle = new Vector3(w / 2, h / 2, -d / 2);
      const reach = Math.max(w, h, d);
      for (const board of cabinet.boards) {
        if (off.has(board.name)) continue;
        const made = geometry(board);
        const wood =
          { baffle: "--oak", fold: "--verdigris", brace: "--verdigris" }[board.role as string] ??
          "--selected";
        const mesh = new Mesh(
          made,
          new MeshLambertMaterial({
            color: colour(wood),
            side: DoubleSide,
            polygonOffset: true,
            polygonOffsetFactor: 1,
            polygonOffsetUnits: 1,
          }),
        );
        const lines = new LineSegments(
          new EdgesGeometry(made, 20),
          new LineBasicMaterial({ color: colour("--ink") }),
        );
        if (board.role === "wall" || board.role === "baffle") {
          made.computeBoundingBox();
          const centre = new Vector3();
          made.boundingBox?.getCenter(centre);
          const away = centre.sub(middle);
          const axis = (["x", "y", "z"] as const).reduce((a, b) =>
            Math.abs(away[b]) > Math.abs(away[a]) ? b : a,
          );
          const shift = new Vector3();
          shift[axis] = Math.sign(away[axis]) * apart * reach * 0.6;
          mesh.position.copy(shift);
          lines.position.copy(shift);
        }
        group.add(mesh, lines);
      }
      group.position.copy(middle).negate();
      space.add(group);
      if (Math.abs(size - reach) > reach * 0.3) {
        size = reach;
        camera.position.set(reach * 1.9, reach * 1.3, reach * 3);
        controls.target.set(0, 0, 0);
        controls.update();
      }
      fit();
    },
    turn(sideways, up) {
      const by = 0.12;
      const at = camera.position.clone().applyAxisAngle(new Vector3(0, 1, 0), sideways * by);
      at.y += up * by * at.length();
      camera.position.copy(at);
      controls.update();
      draw();
    },
    close() {
      watching.disconnect();
      controls.dispose();
      empty();
      renderer.dispose();
      renderer.domElement.remove();
    },
  };
}
