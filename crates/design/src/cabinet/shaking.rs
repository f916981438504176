//! Where moving masses act on the cabinet: forces have directions, and places they act at.

use crate::analysis::Analysis;
use crate::cabinet::built_cabinet::built;
use crate::cabinet::mounted_part::Kind;
use oak_drum_acoustics::network::Shake;
use oak_drum_cabinet::board::V3;

/// How cones and passive radiators act on the cabinet, from the faces they sit on: each takes an equal share of its kind's
/// momentum along its own axis, and turns the cabinet about its middle. `None` without a cabinet.
pub fn shake(analysis: &Analysis) -> Option<Shake> {
    let cabinet = analysis.design.cabinet.as_ref()?;
    let built = built(analysis)?;
    let middle = [cabinet.width_mm / 2.0, cabinet.height_mm / 2.0, cabinet.depth_mm / 2.0];
    let of = |kind: Kind| -> [f64; 6] {
        let mounted_parts: Vec<_> = built.mounted_parts.iter().filter(|s| s.kind == kind).collect();
        let mut sum = [0.0; 6];
        for mounted_part in &mounted_parts {
            let share = 1.0 / mounted_parts.len() as f64;
            let force: V3 = mounted_part.inward.map(|x| -x * share);
            let arm = [0, 1, 2].map(|i| (mounted_part.at[i] - middle[i]) * 1e-3);
            let moment = [
                arm[1] * force[2] - arm[2] * force[1],
                arm[2] * force[0] - arm[0] * force[2],
                arm[0] * force[1] - arm[1] * force[0],
            ];
            for i in 0..3 {
                sum[i] += force[i];
                sum[i + 3] += moment[i];
            }
        }
        sum
    };
    Some(Shake { cones: of(Kind::Woofer), sprung: of(Kind::Radiator), placed: true })
}
