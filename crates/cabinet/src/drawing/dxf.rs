//! Drawings as DXF: millimetres, one layer a purpose, outlines closed.

use super::{Anchor, Drawing, Item, LAYERS, Layer};
use dxf::entities::{Circle, Entity, EntityType, Line, LwPolyline, Text};
use dxf::enums::{AcadVersion, HorizontalTextJustification, Units};
use dxf::tables::Layer as FileLayer;
use dxf::{Color, LwPolylineVertex, Point};
use oak_drum_text::{System, said};

/// A drawing could not be written.
#[derive(Debug)]
pub struct Unwritten(pub String);

/// Colour numbers of the layers: black and white lines everywhere, cuts apart.
fn colour(layer: Layer) -> u8 {
    match layer {
        Layer::Cut => 1,
        Layer::Screws => 5,
        Layer::Hidden | Layer::Centre | Layer::Dimension | Layer::Text | Layer::Grid => 8,
        Layer::Wrong => 6,
        Layer::Outline | Layer::Section => 7,
    }
}

/// A drawing as a DXF file of the year 2000's kind (R2000, ASCII); its lines are in millimetres, its words as they are said.
///
/// # Errors
/// [`Unwritten`] where the library refuses, which it does not for what is drawn here.
pub fn write(drawing: &Drawing) -> Result<Vec<u8>, Unwritten> {
    let mut file = dxf::Drawing::new();
    file.header.version = AcadVersion::R2000;
    file.header.default_drawing_units = Units::Millimeters;
    for (layer, name) in LAYERS {
        file.add_layer(FileLayer {
            name: (*name).into(),
            color: Color::from_index(colour(*layer)),
            ..Default::default()
        });
    }
    let mut add = |layer: Layer, entity: EntityType| {
        let mut entity = Entity::new(entity);
        entity.common.layer = layer.name().into();
        file.add_entity(entity);
    };
    let run = |points: &[[f64; 2]], closed: bool| {
        let mut line = LwPolyline {
            vertices: points.iter().map(|p| LwPolylineVertex { x: p[0], y: p[1], ..Default::default() }).collect(),
            ..Default::default()
        };
        line.set_is_closed(closed);
        EntityType::LwPolyline(line)
    };
    for (layer, item) in &drawing.items {
        match item {
            Item::Line(a, b) => {
                let line = Line::new(Point::new(a[0], a[1], 0.0), Point::new(b[0], b[1], 0.0));
                add(*layer, EntityType::Line(line));
            }
            Item::Ring(points, _) => add(*layer, run(points, true)),
            Item::Run(points) => add(*layer, run(points, false)),
            Item::Circle(c, r) => add(*layer, EntityType::Circle(Circle::new(Point::new(c[0], c[1], 0.0), *r))),
            Item::Text(at, words, size, anchor) => {
                let place = Point::new(at[0], at[1], 0.0);
                let text = Text {
                    location: place.clone(),
                    second_alignment_point: place,
                    text_height: *size,
                    value: said(words, System::Metric),
                    horizontal_text_justification: match anchor {
                        Anchor::Start => HorizontalTextJustification::Left,
                        Anchor::Middle => HorizontalTextJustification::Center,
                        Anchor::End => HorizontalTextJustification::Right,
                    },
                    ..Default::default()
                };
                add(*layer, EntityType::Text(text));
            }
        }
    }
    let mut out = Vec::new();
    file.save(&mut out).map_err(|e| Unwritten(e.to_string()))?;
    Ok(out)
}
