//! Drawings as SVG, in millimetres at their real size; colours are left to the page by classes and `currentColor`.

use super::{Anchor, Drawing, Item, Layer};
use oak_drum_text::{System, said};
use svg::Document;
use svg::node::element::{Circle, Group, Line, Path, Text, Title};

/// Width of a line against the height of the words.
fn stroke(layer: Layer) -> f64 {
    match layer {
        Layer::Outline | Layer::Section | Layer::Cut | Layer::Wrong => 0.11,
        Layer::Hidden | Layer::Dimension | Layer::Text | Layer::Centre | Layer::Screws | Layer::Grid => 0.055,
    }
}

/// A drawing as an SVG document; real-size ones carry their size in millimetres. Where quantities are not said yet, each word that
/// holds some is there twice, classed `said-metric` and `said-inch`: the page shows one.
pub fn write(drawing: &Drawing) -> String {
    let [low, high] = drawing.extent();
    let pad = drawing.text;
    let (w, h) = (high[0] - low[0] + 2.0 * pad, high[1] - low[1] + 2.0 * pad);
    let at = |p: [f64; 2]| (p[0] - low[0] + pad, high[1] - p[1] + pad);
    let mut document = Document::new().set("viewBox", (0.0, 0.0, round(w), round(h)));
    document = document.add(Title::new(said(&drawing.title, System::Metric)));
    if drawing.real_size {
        document = document.set("width", format!("{}mm", round(w))).set("height", format!("{}mm", round(h)));
    }
    let mut group = Group::new().set("class", "drawing").set("fill", "none").set("stroke-linejoin", "round");
    for (layer, item) in &drawing.items {
        let class = format!("layer-{}", layer.name().to_lowercase());
        let width = round(stroke(*layer) * drawing.text);
        let dashes = match layer {
            Layer::Hidden => Some((0.5 * drawing.text, 0.3 * drawing.text)),
            Layer::Centre => Some((0.9 * drawing.text, 0.25 * drawing.text)),
            _ => None,
        };
        macro_rules! styled {
            ($node:expr) => {{
                let mut node =
                    $node.set("class", class.clone()).set("stroke", "currentColor").set("stroke-width", width);
                if let Some((on, off)) = dashes {
                    node = node.set("stroke-dasharray", format!("{} {}", round(on), round(off)));
                }
                node
            }};
        }
        let path = |points: &[[f64; 2]], close: bool| {
            let mut d = String::new();
            for (i, p) in points.iter().enumerate() {
                let (x, y) = at(*p);
                d.push_str(&format!("{}{} {}", if i == 0 { "M" } else { "L" }, round(x), round(y)));
            }
            if close {
                d.push('Z');
            }
            d
        };
        group = match item {
            Item::Line(a, b) => {
                let ((x1, y1), (x2, y2)) = (at(*a), at(*b));
                group.add(styled!(
                    Line::new().set("x1", round(x1)).set("y1", round(y1)).set("x2", round(x2)).set("y2", round(y2))
                ))
            }
            Item::Ring(points, filled) => {
                let node = styled!(Path::new().set("d", path(points, true)));
                group.add(if *layer == Layer::Section {
                    node.set("fill", "#d9cfbb")
                } else if *filled {
                    node.set("fill", "#ffffff").set("class", format!("{class} layer-filled"))
                } else {
                    node
                })
            }
            Item::Run(points) => group.add(styled!(Path::new().set("d", path(points, false)))),
            Item::Circle(c, r) => {
                let (x, y) = at(*c);
                group.add(styled!(Circle::new().set("cx", round(x)).set("cy", round(y)).set("r", round(*r))))
            }
            Item::Text(p, text, size, anchor) => {
                let (x, y) = at(*p);
                let anchor = match anchor {
                    Anchor::Start => "start",
                    Anchor::Middle => "middle",
                    Anchor::End => "end",
                };
                let node = |text: String, class: String| {
                    Text::new(text)
                        .set("class", class)
                        .set("x", round(x))
                        .set("y", round(y))
                        .set("font-size", round(*size))
                        .set("font-family", "sans-serif")
                        .set("text-anchor", anchor)
                        .set("fill", "currentColor")
                };
                let [metric, inch] = [System::Metric, System::Inch].map(|system| said(text, system));
                if metric == inch {
                    group.add(node(metric, class))
                } else {
                    group
                        .add(node(metric, format!("{class} said-metric")))
                        .add(node(inch, format!("{class} said-inch")))
                }
            }
        };
    }
    document.add(group).to_string()
}

fn round(value: f64) -> f64 {
    (value * 100.0).round() / 100.0
}

#[cfg(test)]
mod tests {
    use super::super::mm;
    use super::*;

    /// For a page every size is there in both; said in one it is there once.
    #[test]
    fn sizes_are_there_in_both_or_in_one() {
        let mut d = Drawing::new("Front", 5.0);
        d.word([0.0, 0.0], mm(590.1), Anchor::Start);
        d.word([0.0, 9.0], "front", Anchor::Start);
        let page = write(&d);
        assert!(page.contains("said-metric") && page.contains("590.1") && page.contains("23 7/32"), "{page}");
        assert_eq!(page.matches("<text").count(), 3);
        let inch = write(&d.said(System::Inch));
        assert!(inch.contains("23 7/32") && !inch.contains("590.1") && !inch.contains("said-"), "{inch}");
    }

    #[test]
    fn words_are_escaped_and_sizes_real() {
        let mut d = Drawing::new("A < B", 5.0);
        d.real_size = true;
        d.add(Layer::Outline, Item::Ring(vec![[0.0, 0.0], [100.0, 0.0], [100.0, 50.0]], false));
        d.word([0.0, 0.0], "2 < 3 & so", Anchor::Start);
        let text = write(&d);
        assert!(text.contains("2 &lt; 3 &amp; so") && text.contains("A &lt; B"), "{text}");
        // 100 mm and a margin of the words' height on both sides
        assert!(text.contains("width=\"110mm\""), "{text}");
    }
}
