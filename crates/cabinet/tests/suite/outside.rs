//! The boards against closed meshes measured outside this project (testdata/cabinet/trimesh: script and versions there).

use oak_drum_cabinet::board::Board;
use oak_drum_cabinet::carcass::{Carcass, Front, Housing, Inner, Joint, Through};
use serde_json::Value;

/// Wood, air and the wood's centroid within 0.1 % of the meshes, whatever runs through.
#[test]
fn volumes_and_centroids_against_meshes() {
    let data: Value = serde_json::from_str(include_str!("../../../../testdata/cabinet/trimesh/cabinets.json")).unwrap();
    let cases = data["cases"].as_array().unwrap();
    assert_eq!(cases.len(), 3);
    for case in cases {
        let number = |v: &Value| v.as_f64().unwrap();
        let outside = [0, 1, 2].map(|i| number(&case["outside_mm"][i]));
        for through in [Through::FloorAndTop, Through::Sides] {
            let mut carcass = Carcass {
                outside,
                panel: number(&case["panel_mm"]),
                baffle: number(&case["baffle_mm"]),
                front: Front::Straight,
                joint: Joint::Butt,
                through,
                housing: Housing::Butt,
                inner: Vec::new(),
                lid: None,
                open_front: Vec::new(),
            };
            if case["window"].is_object() {
                let of = |name: &str| number(&case["window"][name]);
                carcass.inner.push(Inner::Level {
                    name: "Window".into(),
                    at: of("at_mm"),
                    thickness: of("thickness_mm"),
                    reach: 1.0,
                    open: of("open_part"),
                });
            }
            let boards = carcass.boards();
            let wood: f64 = boards.iter().map(Board::volume).sum();
            assert!((wood / number(&case["wood_mm3"]) - 1.0).abs() < 1e-3, "{wood}: {case}");
            assert!((carcass.air() / number(&case["air_mm3"]) - 1.0).abs() < 1e-3, "{}: {case}", carcass.air());
            for axis in 0..3 {
                let moment: f64 = boards.iter().map(|b| b.volume() * b.centroid()[axis]).sum();
                let theirs = number(&case["wood_centroid_mm"][axis]);
                assert!((moment / wood - theirs).abs() < 1e-3 * outside[axis], "axis {axis}: {} {case}", moment / wood);
            }
        }
    }
}
