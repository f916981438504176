// Photos as they are chosen, before they are sent.

import { LARGEST_PHOTO } from "../../workbench/outbox";

const KINDS = ["image/jpeg", "image/png", "image/webp"];

/** What of some files may be sent as photos, and why the others may not. */
export function chosen(files: File[], room: number): { photos: File[]; wrong: string[] } {
  const wrong: string[] = [];
  const fit = files.filter((file) => {
    if (!KINDS.includes(file.type)) {
      wrong.push(`${file.name} is no photo: JPEG, PNG or WebP is expected.`);
      return false;
    }
    if (file.size > LARGEST_PHOTO) {
      const size = Math.round(file.size / (1 << 20));
      wrong.push(`${file.name} has ${size} MB; at most ${LARGEST_PHOTO >> 20} MB are taken.`);
      return false;
    }
    return true;
  });
  if (fit.length > room) wrong.push(`An entry holds at most 12 photos; ${fit.length - room} are left out.`);
  return { photos: fit.slice(0, Math.max(0, room)), wrong };
}
