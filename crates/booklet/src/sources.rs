//! Where the numbers come from, and which of them are estimates.

use crate::told::Told;
use oak_drum_design::evaluation::Evaluation;
use oak_drum_paper::Block;
use oak_drum_text::Text;

/// What is reckoned, by what, and what it does not hold for.
const MODELS: [[&str; 3]; 12] = [
    [
        "woofer and box at low level",
        "Thiele, Proc. IRE Australia 1961; Small, JAES 1972 to 1974",
        "small signals: a hot coil, a suspension at its end and a magnet's fading are not in it",
    ],
    [
        "network of air and boxes",
        "acoustic impedance analogy, nodal analysis (Beranek, Acoustics, 1954)",
        "parts small against the wave; standing waves are added for the chambers whose sides are known",
    ],
    ["air", "ideal gas; Sutherland's law of viscosity", "dry air"],
    [
        "ports",
        "end corrections of common practice; compression as the pressure under the port's own length",
        "the built tuning usually lands a little below: trim, then glue",
    ],
    [
        "lines and horns",
        "Webster 1919, cones of at most 12 % change",
        "plane waves: above the first cross mode it is an estimate",
    ],
    ["radiation", "Rayleigh's flanged piston; walls as mirrors", "below some hundred hertz"],
    [
        "standing waves of a chamber",
        "rigid rectangular room (Morse and Ingard)",
        "damping by lining is within some ten per cent",
    ],
    ["panels", "thin plates by Rayleigh and Ritz; Leissa, NASA SP-160", "joints are taken as clamped"],
    [
        "limits of stroke, air and heat",
        "the maker's sheet, common practice, or the brief, as each finding says",
        "limits of common practice are not physics",
    ],
    ["room", "rigid walls with losses; Schroeder's limit", "furniture and doors are not in it"],
    ["cabinet, cut list, sheets", "geometry; guillotine layouts", "boards as thick as stated: measure them"],
    [
        "listening",
        "exact binomial, Friedman, Wilcoxon with Holm, Bradley-Terry",
        "what few listeners could not tell may still be there",
    ],
];

/// This part.
pub fn part(told: &Told, evaluation: &Evaluation) -> Vec<Block> {
    let mut blocks = vec![Block::Part("Sources and estimates".into())];
    let mut rows = vec![["what", "by", "mind"].map(Text::from).to_vec()];
    rows.extend(MODELS.iter().map(|row| row.map(Text::from).to_vec()));
    blocks.push(Block::Table { widths: vec![1.6, 2.6, 2.8], rows });
    let k = &evaluation.conditions;
    blocks.push(Block::Words(
        format!(
            "All of it for air in which sound goes {:.1} m/s and that weighs {:.3} kg/m³, behind {:.3} ohm of source and leads.",
            k.speed_of_sound_m_per_s, k.density_kg_per_m3, k.source_resistance_ohm
        )
        .into(),
    ));
    if let Some(estimate) = &evaluation.summary.estimate {
        blocks.push(Block::Words(format!("Of this box an estimate: {estimate}").into()));
    }
    blocks.push(Block::Words(
        "Of the shopping list what says \"about\" is an estimate; prices are what was typed in.".into(),
    ));
    if told.design.cabinet.is_none() {
        blocks.push(Block::Words("Without a cabinet nothing is known of boards, weights and clearances.".into()));
    }
    blocks.push(Block::Caution(
        "Saws and routers, dust, mains, loud sound, heavy lifts, solvents and batteries are warned of where the step is. Local codes and licensed practice come first."
            .into(),
    ));
    blocks
}
