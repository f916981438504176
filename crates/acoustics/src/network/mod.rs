//! The network: elements between nodes, one driven diaphragm, and what radiates.
//!
//! Nodal analysis: Y·p = s with p the acoustic pressures (Pa) of the inner nodes and s the volume velocities
//! (m³/s) the diaphragm injects. The outside is the common node at p = 0: cones and ports that radiate there
//! carry their radiation mass themselves. The network knows no families.

pub mod cavity;
pub mod chain;
pub mod diaphragm;
pub mod element;
pub mod leak;
pub mod phasor;
pub mod plain;
pub mod resonator;
pub mod solve;
pub mod volume;

use diaphragm::Diaphragm;
use element::Element;

/// Where a terminal is connected.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Node {
    /// The air outside, p = 0.
    Outside,
    /// An inner node by its index.
    Inner(usize),
}

/// What a radiating opening is, for the separate curves.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum RadiatorKind {
    /// A cone's front or rear.
    Cone,
    /// A port, slot or mouth.
    Port,
    /// A sprung mass: a passive radiator.
    Sprung,
    /// An opening between two chambers or a throat: its air is watched, it is not heard.
    Inner,
    /// A leak.
    Leak,
}

/// What becomes of the sound behind a cone whose rear lies outside.
#[derive(Clone, Debug, Default, PartialEq)]
pub enum RearSound {
    /// It is heard from the same place, and cancels what it meets.
    #[default]
    Heard,
    /// It stays in another room.
    Unheard,
    /// It comes around an edge, later by these times (s), each an equal share.
    Around(Vec<f64>),
}

/// A terminal whose flow is watched; at the outside it radiates.
#[derive(Clone, Debug)]
pub struct Radiator {
    /// Which of the separate curves it belongs to.
    pub kind: RadiatorKind,
    /// Index of the passive element in [`Network::elements`].
    pub element: usize,
    /// Terminal of the element that lies outside.
    pub terminal: usize,
    /// Area of the opening, m²; 0 where no air speed is asked for (leaks).
    pub area: f64,
    /// Highest air speed wanted here, m/s peak; of a sprung mass its stroke one way, m peak.
    pub limit: Option<f64>,
    /// Moving mass over its area, along the woofer's axis, kg/m²: what shakes the cabinet. Only of sprung masses.
    pub shake: f64,
}

/// An element with its connections.
#[derive(Debug)]
pub struct Placed {
    /// The element.
    pub element: Box<dyn Element>,
    /// One node per terminal.
    pub nodes: Vec<Node>,
}

/// Elements, the diaphragm that drives them, and the radiating openings.
#[derive(Debug)]
pub struct Network {
    inner_nodes: usize,
    /// The passive elements.
    pub elements: Vec<Placed>,
    /// The driven diaphragm (all cones of the array as one).
    pub diaphragm: Diaphragm,
    /// Node behind the cone.
    pub rear: Node,
    /// Node in front of the cone.
    pub front: Node,
    /// What becomes of the sound behind the cone where its rear lies outside.
    pub rear_sound: RearSound,
    /// Openings that radiate besides the cone, and those that are watched.
    pub radiators: Vec<Radiator>,
}

impl Network {
    /// A network with the diaphragm between `rear` and `front`; inner nodes are made by [`Network::node`].
    pub fn new(diaphragm: Diaphragm) -> Self {
        Network {
            inner_nodes: 0,
            elements: Vec::new(),
            diaphragm,
            rear: Node::Outside,
            front: Node::Outside,
            rear_sound: RearSound::Heard,
            radiators: Vec::new(),
        }
    }

    /// A new inner node.
    pub fn node(&mut self) -> Node {
        self.inner_nodes += 1;
        Node::Inner(self.inner_nodes - 1)
    }

    /// How many inner nodes there are.
    pub fn inner_nodes(&self) -> usize {
        self.inner_nodes
    }

    /// Connects an element; returns its index.
    ///
    /// # Panics
    /// When the number of nodes is not the element's number of terminals (a mistake in a family's wiring).
    pub fn place(&mut self, element: impl Element + 'static, nodes: &[Node]) -> usize {
        assert_eq!(element.terminals(), nodes.len(), "one node per terminal");
        self.elements.push(Placed { element: Box::new(element), nodes: nodes.to_vec() });
        self.elements.len() - 1
    }

    /// Connects an element whose last terminal is outside and radiates.
    pub fn place_radiator(
        &mut self,
        element: impl Element + 'static,
        inner: Node,
        kind: RadiatorKind,
        area: f64,
        limit: Option<f64>,
    ) {
        self.place_opening(element, [inner, Node::Outside], kind, area, limit);
    }

    /// Connects an element whose flow out of its second terminal is watched; returns the element's index.
    pub fn place_opening(
        &mut self,
        element: impl Element + 'static,
        nodes: [Node; 2],
        kind: RadiatorKind,
        area: f64,
        limit: Option<f64>,
    ) -> usize {
        let element = self.place(element, &nodes);
        self.radiators.push(Radiator { kind, element, terminal: 1, area, limit, shake: 0.0 });
        element
    }

    /// Watches the air at another terminal of an element, of this area (m²).
    pub fn watch(&mut self, element: usize, terminal: usize, area: f64) {
        let kind = RadiatorKind::Inner;
        self.radiators.push(Radiator { kind, element, terminal, area, limit: None, shake: 0.0 });
    }

    /// Whether the cone's front and rear radiate to the outside.
    pub fn cone_radiates(&self) -> (bool, bool) {
        (self.rear == Node::Outside, self.front == Node::Outside)
    }
}

/// Index of (i, j), i <= j, in a packed upper triangle of an n x n matrix.
#[inline(always)]
pub(crate) fn packed(n: usize, i: usize, j: usize) -> usize {
    let (i, j) = if i <= j { (i, j) } else { (j, i) };
    i * n - i * (i + 1) / 2 + j
}
