//! Small drawings of what a term does, each reckoned from the simplest model that shows it.
//!
//! Symbols: x = f / fs or f / fb, q = Qts or Qtc, alpha = Vas / Vb, h = fb / fs, ql = QL (leakage). All ratios, so no drawing carries a size.
//! Curves follow Small (1972, 1973) with the woofer as mass, spring and damper and the box as spring, port mass and leak.

use serde::Serialize;
use std::f64::consts::PI;

/// A drawing in units of its own.
#[derive(Clone, Debug, PartialEq, Serialize)]
pub struct Drawing {
    /// Width of the sheet.
    pub width: f64,
    /// Its height.
    pub height: f64,
    /// Lines, in the order in which they are drawn.
    pub lines: Vec<Line>,
    /// Words on it.
    pub words: Vec<Words>,
    /// The same in words, for who does not see it.
    pub tells: &'static str,
}

/// A line.
#[derive(Clone, Debug, PartialEq, Serialize)]
pub struct Line {
    /// Path in the notation of SVG.
    pub d: String,
    /// What it stands for.
    pub look: Look,
}

/// What a line stands for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
pub enum Look {
    /// Boards and axes.
    Ink,
    /// What is there to compare with.
    Soft,
    /// The cone.
    Cone,
    /// Air that moves.
    Air,
}

/// Words beside a line.
#[derive(Clone, Debug, PartialEq, Serialize)]
pub struct Words {
    /// From the left.
    pub x: f64,
    /// From above.
    pub y: f64,
    /// Which part of the words stands there: start, middle or end.
    pub anchor: &'static str,
    /// The words.
    pub text: &'static str,
}

pub(crate) const WIDTH: f64 = 240.0;
pub(crate) const HEIGHT: f64 = 92.0;

pub(crate) fn sheet(tells: &'static str) -> Drawing {
    Drawing { width: WIDTH, height: HEIGHT, lines: Vec::new(), words: Vec::new(), tells }
}

impl Drawing {
    pub(crate) fn line(&mut self, look: Look, d: impl Into<String>) -> &mut Drawing {
        self.lines.push(Line { d: d.into(), look });
        self
    }
    pub(crate) fn say(&mut self, x: f64, y: f64, anchor: &'static str, text: &'static str) -> &mut Drawing {
        self.words.push(Words { x, y, anchor, text });
        self
    }
    /// A line through points reckoned from a part of its way, from 0 to 1.
    pub(crate) fn through(&mut self, look: Look, many: u32, at: impl Fn(f64) -> (f64, f64)) -> &mut Drawing {
        let points = (0..=many).map(|i| at(f64::from(i) / f64::from(many))).map(|(x, y)| format!("{x:.1} {y:.1}"));
        let d = format!("M{}", points.collect::<Vec<_>>().join("L"));
        self.line(look, d)
    }
    pub(crate) fn arrow(&mut self, look: Look, x: f64, y: f64, by: f64) -> &mut Drawing {
        let (end, head) = (x + by, 4.0 * by.signum());
        self.line(look, format!("M{x:.1} {y:.1}H{end:.1}"));
        self.line(look, format!("M{:.1} {:.1}L{end:.1} {y:.1}L{:.1} {:.1}", end - head, y - 3.0, end - head, y + 3.0))
    }
}

/// A frame of two axes into which curves are laid.
pub(crate) struct Frame {
    /// Edges across, its scale logarithmic.
    pub from: f64,
    /// The right one.
    pub to: f64,
    /// Values at the foot and the head.
    pub low: f64,
    /// The upper.
    pub high: f64,
}

impl Frame {
    const LEFT: f64 = 8.0;
    const FOOT: f64 = HEIGHT - 16.0;

    pub(crate) fn axes(&self, on: &mut Drawing, across: &'static str) {
        on.line(Look::Soft, format!("M{} 6V{}H{}", Self::LEFT, Self::FOOT, WIDTH - 8.0));
        on.say(WIDTH - 8.0, HEIGHT - 5.0, "end", across);
    }
    pub(crate) fn x(&self, at: f64) -> f64 {
        Self::LEFT + (WIDTH - 16.0) * (at / self.from).ln() / (self.to / self.from).ln()
    }
    pub(crate) fn y(&self, value: f64) -> f64 {
        Self::FOOT - (Self::FOOT - 6.0) * (value.clamp(self.low, self.high) - self.low) / (self.high - self.low)
    }
    pub(crate) fn curve(&self, on: &mut Drawing, look: Look, of: impl Fn(f64) -> f64) {
        let many = 72;
        on.through(look, many, |t| {
            let at = self.from * (self.to / self.from).powf(t);
            (self.x(at), self.y(of(at)))
        });
    }
    /// A line up from the axis to a value, with its name under it.
    pub(crate) fn mark(&self, on: &mut Drawing, at: f64, up_to: f64, name: &'static str) {
        let x = self.x(at);
        on.line(Look::Soft, format!("M{x:.1} {}V{:.1}", Self::FOOT, self.y(up_to)));
        on.say(x, HEIGHT - 5.0, "middle", name);
    }
}

pub(crate) fn db(value: f64) -> f64 {
    20.0 * value.log10()
}

/// Level of a closed box against its reference, x = f / fc: Small (1972), closed-box response function.
pub fn closed(x: f64, q: f64) -> f64 {
    x * x / (1.0 - x * x).hypot(x / q)
}

/// A vented box at x = f / fs: (level against the reference, stroke against that of a steady push, impedance of motion against its greatest).
///
/// The cone sees 1/q + j(x - 1/x) - j alpha / (x d) with d = 1 - (h/x)^2 - j (h/x) / ql; what leaves the box is the cone's flow over d.
pub fn vented(x: f64, q: f64, alpha: f64, h: f64, ql: f64) -> (f64, f64, f64) {
    let (dr, di) = (1.0 - (h / x).powi(2), -(h / x) / ql);
    let d2 = dr * dr + di * di;
    // -j alpha / (x d) = -j alpha (dr - j di) / (x d2)
    let (zr, zi) = (1.0 / q - alpha * di / (x * d2), x - 1.0 / x - alpha * dr / (x * d2));
    let z = zr.hypot(zi);
    (x / (z * d2.sqrt()), 1.0 / (x * z), 1.0 / (q * z))
}

/// Air moved by the port for each litre moved by the cone, both outwards, x = f / fb, without losses: 1 / (x^2 - 1).
pub fn port_for_cone(x: f64) -> f64 {
    1.0 / (x * x - 1.0)
}

/// Above, at and below the tuning of a vented box: who moves, how far and which way.
pub fn tuning() -> Drawing {
    let mut on = sheet(
        "Three boxes with a cone and a port. Above the tuning both move out together, the port a little. At the tuning the cone rests and the port moves far. Below it the port moves in while the cone moves out.",
    );
    for (i, (x, words)) in [(0.5, "below: cancel"), (1.0, "at: port only"), (2.0, "above: add")].into_iter().enumerate()
    {
        let left = 6.0 + 80.0 * i as f64;
        let (right, top, foot) = (left + 40.0, 8.0, 70.0);
        on.line(
            Look::Ink,
            format!("M{right} {top}H{left}V{foot}H{right}M{right} {top}v6M{right} 40v6M{right} 46h-14M{right} 58h-14M{right} 58V{foot}"),
        );
        // one full arrow for the farther of the two; at the tuning the cone all but rests
        let (cone, port) = if x == 1.0 { (0.0, 1.0) } else { (1.0, port_for_cone(x)) };
        let most = f64::max(cone, f64::abs(port));
        on.line(Look::Cone, format!("M{right} 14L{} 22V32L{right} 40", right - 7.0));
        if cone > 0.0 {
            on.arrow(Look::Cone, right - 5.0, 27.0, 24.0 * cone / most);
        }
        on.arrow(Look::Air, right - 2.0 + if port < 0.0 { 8.0 } else { 0.0 }, 52.0, 24.0 * port / most);
        on.say(left + 34.0, HEIGHT - 6.0, "middle", words);
    }
    on
}

/// The same box let go of in three ways.
pub fn q() -> Drawing {
    let mut on = sheet(
        "Level against frequency for three values of Q: the high one swells before it falls, the middle one stays flat the longest, the low one falls early and gently.",
    );
    let frame = Frame { from: 0.25, to: 5.0, low: -24.0, high: 6.0 };
    frame.axes(&mut on, "frequency");
    for (q, look) in [(0.5, Look::Soft), (0.707, Look::Air), (1.3, Look::Cone)] {
        frame.curve(&mut on, look, |x| db(closed(x, q)));
    }
    on.say(frame.x(1.1), frame.y(3.0) - 4.0, "middle", "1.3");
    on.say(frame.x(0.98), frame.y(-5.2) - 6.0, "start", "0.7");
    on.say(frame.x(1.25), frame.y(-9.5), "start", "0.5");
    on
}

/// How a small box lifts the resonance: fc / fs = sqrt(1 + Vas / Vb), Small (1972).
pub fn vas() -> Drawing {
    let mut on = sheet(
        "Resonance in the box against its volume: a box much smaller than Vas lifts it far, a larger one hardly.",
    );
    let frame = Frame { from: 0.1, to: 6.0, low: 0.8, high: 3.4 };
    frame.axes(&mut on, "volume of the box");
    frame.curve(&mut on, Look::Air, |v| (1.0 + 1.0 / v).sqrt());
    frame.mark(&mut on, 1.0, 2f64.sqrt(), "Vas");
    on.say(frame.x(0.2) + 8.0, frame.y(2.6), "start", "resonance in the box");
    on
}

/// A coil in its gap, at rest and as far as it keeps its grip.
pub fn stroke() -> Drawing {
    let mut on =
        sheet("A long coil in a short gap, at rest and moved out until its end reaches the gap: that far is Xmax.");
    for (left, by, words) in [(20.0, 0.0, "at rest"), (140.0, 14.0, "at Xmax")] {
        // the plate with its gap, the coil twice as long beyond it on either side
        on.line(Look::Ink, format!("M{left} 34h26v16h-26zM{} 34h26v16h-26z", left + 40.0));
        for coil in [left + 29.0, left + 34.0] {
            on.line(Look::Cone, format!("M{coil} {:.1}h4v44h-4z", 20.0 - by));
        }
        on.say(left + 33.0, HEIGHT - 5.0, "middle", words);
    }
    on.line(Look::Air, "M212 20V6M209 9L212 6L215 9M209 17L212 20L215 17");
    on.line(Look::Soft, "M178 20H218M178 6H218");
    on
}

/// Falling below the end: closed and vented.
pub fn slopes() -> Drawing {
    let mut on =
        sheet("Level against frequency: a closed box falls by twelve decibels an octave, a vented one by twenty-four.");
    let frame = Frame { from: 0.2, to: 4.0, low: -36.0, high: 4.0 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Air, |x| db(closed(x, 0.707)));
    // Butterworth of the fourth order
    frame.curve(&mut on, Look::Cone, |x| -10.0 * (1.0 + x.powi(-8)).log10());
    on.say(frame.x(0.42), frame.y(-11.0), "end", "closed");
    on.say(frame.x(0.62), frame.y(-28.0), "start", "vented");
    on
}

/// A quarter of a wave in a path that is closed at one end.
pub fn quarter_wave() -> Drawing {
    let mut on = sheet(
        "A pipe closed on the left and open on the right: the air does not move at the closed end and moves farthest at the mouth.",
    );
    on.line(Look::Ink, "M220 14H16V70H220");
    for turned in [1.0, -1.0] {
        on.through(Look::Air, 40, |t| (16.0 + 204.0 * t, 42.0 - turned * 24.0 * (PI / 2.0 * t).sin()));
    }
    on.say(20.0, HEIGHT - 7.0, "start", "rests").say(220.0, HEIGHT - 7.0, "end", "swings farthest");
    on
}

/// Walls of an exponential horn.
pub fn horn() -> Drawing {
    let mut on = sheet("A path that widens from a small throat to a large mouth.");
    for side in [1.0, -1.0] {
        // the area grows by an exponential, so does the half width
        on.through(Look::Ink, 40, |t| (34.0 + 186.0 * t, 40.0 + side * 4.0 * (36.0f64 / 4.0).powf(t)));
    }
    on.line(Look::Cone, "M34 20V60M34 20L22 34V46L34 60");
    on.arrow(Look::Air, 50.0, 40.0, 14.0).arrow(Look::Air, 110.0, 40.0, 24.0).arrow(Look::Air, 180.0, 40.0, 36.0);
    on.say(36.0, HEIGHT - 6.0, "start", "throat").say(220.0, HEIGHT - 2.0, "end", "mouth");
    on
}

/// Air that goes round a board.
pub fn dipole() -> Drawing {
    let mut on = sheet("A woofer in a bare board, with arrows from its front around the edges to its back.");
    on.line(Look::Ink, "M120 6V30M120 62V86");
    on.line(Look::Cone, "M120 30L110 40V52L120 62");
    for (from, to) in [(34.0, 2.0), (58.0, 90.0)] {
        on.line(Look::Air, format!("M130 {from}C168 {to} 72 {to} 102 {from}"));
    }
    on.line(Look::Air, "M108 37L102 34L106 29M108 55L102 58L106 63");
    on.say(160.0, 49.0, "start", "front").say(80.0, 49.0, "end", "back");
    on
}

/// Impedance of a woofer in a vented box.
pub fn impedance() -> Drawing {
    let mut on = sheet("Impedance against frequency in a vented box: two peaks with a dip between them at the tuning.");
    let frame = Frame { from: 0.2, to: 5.0, low: 0.0, high: 1.0 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Air, |x| 0.08 + 0.9 * vented(x, 5.0, 2.0, 1.0, 15.0).2);
    frame.mark(&mut on, 1.0, 0.3, "tuning");
    on
}

/// Air that swings along at the ends of a port.
pub fn end_correction() -> Drawing {
    let mut on = sheet("A tube in a wall; air before and behind it swings along, so that it acts longer than it is.");
    on.line(Look::Ink, "M150 6V34H84M150 84V58H84");
    on.line(Look::Air, "M150 34C168 36 168 56 150 58M84 34C72 37 72 55 84 58");
    on.line(Look::Soft, "M75 70V78M163 70V78M75 74H163");
    on.say(119.0, HEIGHT - 6.0, "middle", "acts this long");
    on.say(119.0, 49.0, "middle", "tube");
    on
}

/// Speed against diameter at the same flow: it falls with the square.
pub fn air_speed() -> Drawing {
    let mut on = sheet("Air speed against the diameter of the port: a little wider, much slower.");
    let frame = Frame { from: 0.5, to: 2.0, low: 0.0, high: 4.0 };
    frame.axes(&mut on, "diameter");
    frame.curve(&mut on, Look::Air, |d| d.powi(-2));
    on.say(frame.x(0.68), frame.y(2.4), "start", "half of it at 1.4 times the diameter");
    on
}

/// The first wave between two walls.
pub fn standing_wave() -> Drawing {
    let mut on = sheet("Pressure between two walls: strong at both, nothing in the middle.");
    on.line(Look::Ink, "M20 8V74M220 8V74");
    for turned in [1.0, -1.0] {
        on.through(Look::Air, 40, |t| (20.0 + 200.0 * t, 41.0 - turned * 28.0 * (PI * t).cos()));
    }
    on.say(24.0, HEIGHT - 5.0, "start", "loud").say(120.0, HEIGHT - 5.0, "middle", "nothing").say(
        216.0,
        HEIGHT - 5.0,
        "end",
        "loud",
    );
    on
}

/// A wall that rings, and the same with a brace across its middle.
pub fn panel() -> Drawing {
    let mut on = sheet("A wall bulging as one, and the same wall with a brace, bulging in two smaller halves.");
    for (left, bulges, high, words) in
        [(10.0, 1.0, 22.0, "bare: low and loud"), (130.0, 2.0, 7.0, "braced: higher, quieter")]
    {
        on.line(Look::Soft, format!("M{left} 50h100"));
        on.through(Look::Air, 40, |t| (left + 100.0 * t, 50.0 - high * (bulges * PI * t).sin()));
        on.line(Look::Ink, format!("M{left} 42V62M{} 42V62", left + 100.0));
        if bulges > 1.0 {
            on.line(Look::Ink, format!("M{} 50V72", left + 50.0));
        }
        on.say(left + 50.0, HEIGHT - 5.0, "middle", words);
    }
    on
}

/// A tight vented box and the same with a leak.
pub fn leak() -> Drawing {
    let mut on = sheet("Level against frequency: with a leak the level sags around the tuning.");
    let frame = Frame { from: 0.5, to: 4.0, low: -24.0, high: 4.0 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Air, |x| db(vented(x, 0.383, 1.414, 1.0, 20.0).0));
    frame.curve(&mut on, Look::Cone, |x| db(vented(x, 0.383, 1.414, 1.0, 2.0).0));
    on.say(frame.x(0.95), frame.y(-2.0), "end", "tight").say(frame.x(1.15), frame.y(-9.0), "start", "leaking");
    on
}

/// Stroke of a vented box with and without a high-pass under its tuning.
pub fn high_pass() -> Drawing {
    let mut on = sheet(
        "Cone stroke against frequency in a vented box: below the tuning it grows without end, with a high-pass it does not.",
    );
    let frame = Frame { from: 0.25, to: 4.0, low: 0.0, high: 1.2 };
    frame.axes(&mut on, "frequency");
    let stroke = |x: f64| vented(x, 0.383, 1.414, 1.0, 10.0).1;
    frame.curve(&mut on, Look::Cone, stroke);
    // Butterworth of the fourth order, at four fifths of the tuning
    frame.curve(&mut on, Look::Air, |x| stroke(x) / (1.0 + (0.8 / x).powi(8)).sqrt());
    on.say(frame.x(0.62), frame.y(1.0), "start", "without").say(frame.x(0.3), frame.y(0.2) - 3.0, "start", "with");
    on
}
