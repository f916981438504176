import type { Taken } from "../../api/client";
import { isImpedance, placeWords } from "./places";

/** The bench with its leads: what is plugged where, and where the microphone is. */
export function BenchDrawing({ taken }: { taken: Taken }) {
  const jig = isImpedance(taken);
  const box = taken.kind === "in_box" || !jig;
  const lead = { fill: "none", stroke: "var(--oak)", strokeWidth: 1.6 };
  const thing = { fill: "var(--panel)", stroke: "var(--ink)", strokeWidth: 1.2 };
  const microphone: Record<string, [number, number]> = {
    near_cone: [438, 74],
    near_port: [438, 126],
    near_radiator: [438, 126],
    in_front: [330, 74],
    at_seat: [330, 44],
  };
  const at = microphone[taken.kind];
  return (
    <svg
      viewBox="0 0 560 176"
      className="block w-full max-w-xl min-w-[30rem]"
      role="img"
      aria-label={`Connections for a measurement ${placeWords(taken)}`}
      fontSize="10"
    >
      <path d="M6 162H554" stroke="var(--rule)" strokeWidth="3" />
      <rect x="14" y="106" width="96" height="52" {...thing} />
      <text x="62" y="136" textAnchor="middle" fill="var(--ink)">
        sound card
      </text>
      <text x="104" y="118" textAnchor="end" fill="var(--soft)">
        out
      </text>
      <text x="104" y="154" textAnchor="end" fill="var(--soft)">
        in
      </text>
      <rect x="186" y="106" width="78" height="52" {...thing} />
      <text x="225" y="136" textAnchor="middle" fill="var(--ink)">
        amplifier
      </text>
      <path d="M110 114H186" {...lead} />
      {box ? (
        <>
          <rect x="450" y="30" width="86" height="128" {...thing} />
          <path d="M450 52L462 62V86L450 96" {...thing} />
          <path d="M450 118H468M450 134H468" stroke="var(--ink)" strokeWidth="1.2" />
        </>
      ) : (
        <>
          <path d="M478 60L460 40V120L478 100Z" {...thing} />
          <rect x="478" y="64" width="30" height="32" {...thing} />
          <text x="492" y="140" textAnchor="middle" fill="var(--soft)">
            {taken.kind === "known_box" ? "on a closed box" : "hangs free"}
          </text>
          {taken.kind === "added_mass" && <circle cx="462" cy="80" r="6" fill="var(--oak)" />}
        </>
      )}
      {jig ? (
        <>
          <path d={`M264 120H318M352 120H${box ? 536 : 508}V${box ? 120 : 90}`} {...lead} />
          <rect x="318" y="113" width="34" height="14" {...thing} />
          <text x="335" y="106" textAnchor="middle" fill="var(--ink)">
            resistor in line
          </text>
          <path d="M300 120V84H148V148H110" {...lead} strokeDasharray="4 2" />
          <path d="M372 120V66H134V140H110" {...lead} strokeDasharray="4 2" />
          <text x="160" y="80" fill="var(--soft)">
            in 1, before it
          </text>
          <text x="160" y="60" fill="var(--soft)">
            in 2, across the woofer
          </text>
        </>
      ) : (
        <>
          <path d="M264 130H536V120" {...lead} />
          {at && (
            <>
              <circle cx={at[0]} cy={at[1]} r="4.5" fill="var(--oak)" />
              <path d={`M${at[0] - 4} ${at[1]}H${at[0] - 26}`} stroke="var(--ink)" strokeWidth="3" />
              <path
                d={`M${at[0] - 26} ${at[1]}C200 ${at[1]} 160 40 100 106`}
                {...lead}
                strokeDasharray="4 2"
              />
              <text x={at[0] - 28} y={at[1] - 8} textAnchor="end" fill="var(--ink)">
                microphone
              </text>
            </>
          )}
          <path d="M150 114C150 148 130 148 110 148" {...lead} strokeDasharray="4 2" />
          <text x="114" y="172" fill="var(--soft)">
            loopback
          </text>
        </>
      )}
    </svg>
  );
}
