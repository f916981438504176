//! Plastic pipes that ports are cut from, by the published standards.

/// A pipe of a standard.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Pipe {
    /// Its size as it is asked for.
    pub size: &'static str,
    /// Outside diameter, mm.
    pub outside_mm: f64,
    /// Wall, mm.
    pub wall_mm: f64,
    /// Where the sizes come from.
    pub standard: &'static str,
}

impl Pipe {
    /// Inside diameter, mm.
    pub fn inside_mm(&self) -> f64 {
        self.outside_mm - 2.0 * self.wall_mm
    }
}

const SCHEDULE_40: &str = "ASTM D1785, PVC schedule 40: outside diameter and least wall (from memory)";
const SEWER: &str = "EN 1401-1, PVC-U, SN 4: outside diameter and least wall (from memory)";
const WASTE: &str = "EN 1329-1, PVC-U: outside diameter and least wall (from memory)";

const fn inches(size: &'static str, outside: f64, wall: f64) -> Pipe {
    Pipe { size, outside_mm: outside * 25.4, wall_mm: wall * 25.4, standard: SCHEDULE_40 }
}

const fn metric(size: &'static str, outside_mm: f64, wall_mm: f64, standard: &'static str) -> Pipe {
    Pipe { size, outside_mm, wall_mm, standard }
}

/// Every pipe, by standard and size.
pub const PIPES: &[Pipe] = &[
    inches("1 1/2 in", 1.900, 0.145),
    inches("2 in", 2.375, 0.154),
    inches("2 1/2 in", 2.875, 0.203),
    inches("3 in", 3.500, 0.216),
    inches("4 in", 4.500, 0.237),
    inches("5 in", 5.563, 0.258),
    inches("6 in", 6.625, 0.280),
    inches("8 in", 8.625, 0.322),
    inches("10 in", 10.750, 0.365),
    inches("12 in", 12.750, 0.406),
    metric("DN 40", 40.0, 3.0, WASTE),
    metric("DN 50", 50.0, 3.0, WASTE),
    metric("DN 75", 75.0, 3.0, WASTE),
    metric("DN 90", 90.0, 3.0, WASTE),
    metric("DN 110", 110.0, 3.2, SEWER),
    metric("DN 125", 125.0, 3.2, SEWER),
    metric("DN 160", 160.0, 4.0, SEWER),
    metric("DN 200", 200.0, 4.9, SEWER),
    metric("DN 250", 250.0, 6.2, SEWER),
    metric("DN 315", 315.0, 7.7, SEWER),
];

#[cfg(test)]
mod tests {
    use super::*;

    /// Schedule 40 of 4 in has 4.500 in outside and a least wall of 0.237 in, 4.026 in inside (ASTM D1785; from memory);
    /// sizes grow within a standard.
    #[test]
    fn sizes_of_the_standards() {
        let four = PIPES.iter().find(|p| p.size == "4 in").unwrap();
        assert!((four.inside_mm() / 25.4 - 4.026).abs() < 1e-9);
        for pair in PIPES.windows(2) {
            assert!(pair[0].standard != pair[1].standard || pair[0].inside_mm() < pair[1].inside_mm());
        }
        assert!(PIPES.iter().all(|p| p.wall_mm > 2.0 && p.standard.contains("from memory")));
    }
}
