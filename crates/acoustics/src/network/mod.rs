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

/// What is known of an opening before it is placed.
#[derive(Clone, Copy, Debug)]
pub struct Opening {
    /// What it is called, in small letters: "port", "mouth".
    pub name: &'static str,
    /// Which of the separate curves it belongs to.
    pub kind: RadiatorKind,
    /// Area of all of it, m²; 0 where no air speed is asked for (leaks).
    pub area: f64,
    /// How many equal ones make it up.
    pub count: u32,
    /// Highest air speed wanted here, m/s peak; of a sprung mass its excursion one way, m peak.
    pub limit: Option<f64>,
}

impl Opening {
    /// A leak.
    pub const LEAK: Opening = Opening { name: "leak", kind: RadiatorKind::Leak, area: 0.0, count: 1, limit: None };

    /// One opening without a limit.
    pub fn one(name: &'static str, kind: RadiatorKind, area: f64) -> Opening {
        Opening { name, kind, area, count: 1, limit: None }
    }
}

/// A terminal whose flow is watched; at the outside it radiates.
#[derive(Clone, Debug)]
pub struct Radiator {
    /// What it is called.
    pub name: &'static str,
    /// How many equal openings make it up.
    pub count: u32,
    /// Which of the separate curves it belongs to.
    pub kind: RadiatorKind,
    /// Index of the passive element in [`Network::elements`].
    pub element: usize,
    /// Terminal of the element that lies outside.
    pub terminal: usize,
    /// Area of the opening, m²; 0 where no air speed is asked for (leaks).
    pub area: f64,
    /// Highest air speed wanted here, m/s peak; of a sprung mass its excursion one way, m peak.
    pub limit: Option<f64>,
    /// Moving mass over its area, kg/m²: what shakes the cabinet. Only of sprung masses.
    pub mass_per_area: f64,
}

/// Where moving masses act on the cabinet: force (three) and moment about its middle (three, m), per unit of the momentum of
/// all cones together and of all sprung masses together; across, up, toward the listener.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Shake {
    /// Of the cones.
    pub cones: [f64; 6],
    /// Of the sprung masses.
    pub sprung: [f64; 6],
    /// Whether places are known, so that the moment means something.
    pub placed: bool,
}

impl Shake {
    /// All cones looking one way, the sprung masses by `way` of it (-1 against it), at places not known.
    pub fn along_one_axis(way: f64) -> Shake {
        Shake { cones: [0.0, 0.0, 1.0, 0.0, 0.0, 0.0], sprung: [0.0, 0.0, way, 0.0, 0.0, 0.0], placed: false }
    }
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
    /// The small space everything radiates into ([`Network::enclose`]).
    around: Option<Node>,
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
    /// How its moving masses act on the cabinet.
    pub shake: Shake,
}

impl Network {
    /// A network with the diaphragm between `rear` and `front`; inner nodes are made by [`Network::node`].
    pub fn new(diaphragm: Diaphragm) -> Self {
        Network {
            inner_nodes: 0,
            around: None,
            elements: Vec::new(),
            diaphragm,
            rear: Node::Outside,
            front: Node::Outside,
            rear_sound: RearSound::Heard,
            radiators: Vec::new(),
            shake: Shake::along_one_axis(1.0),
        }
    }

    /// A new inner node.
    pub fn node(&mut self) -> Node {
        self.inner_nodes += 1;
        Node::Inner(self.inner_nodes - 1)
    }

    /// How much reckoning it takes at one frequency, in that of a plain mass (a rough count).
    pub fn weight(&self) -> usize {
        4 + self.elements.iter().map(|placed| placed.element.weight()).sum::<usize>()
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

    /// Connects an element whose flow out of its second terminal is watched; returns the element's index.
    pub fn place_opening(&mut self, element: impl Element + 'static, nodes: [Node; 2], opening: Opening) -> usize {
        let element = self.place(element, &nodes);
        self.watch(element, 1, opening);
        element
    }

    /// Watches what flows out of a terminal of an element that is placed; at the outside it radiates.
    pub fn watch(&mut self, element: usize, terminal: usize, opening: Opening) {
        let Opening { name, kind, area, count, limit } = opening;
        self.radiators.push(Radiator { name, count, kind, element, terminal, area, limit, mass_per_area: 0.0 });
    }

    /// Whether the cone's front and rear radiate to the outside.
    pub fn cone_radiates(&self) -> (bool, bool) {
        let outside = |node: Node| node == Node::Outside || Some(node) == self.around;
        (outside(self.rear), outside(self.front))
    }

    /// Puts all that radiates into a small closed space whose air is a spring of its own before cone and openings: its compliance
    /// (m³/Pa), and a leak (Hz) below which its air goes out. A cone that radiates from both sides is left as it is.
    pub fn enclose(&mut self, compliance: f64, leak_hz: f64) {
        if self.rear == Node::Outside && self.front == Node::Outside {
            return;
        }
        let around = self.node();
        self.around = Some(around);
        self.place(volume::Volume { compliance, filled: None, absorption: 0.0 }, &[around, Node::Outside]);
        if leak_hz > 0.0 {
            let resistance = 1.0 / (std::f64::consts::TAU * leak_hz * compliance);
            self.place(leak::Leak { resistance }, &[around, Node::Outside]);
        }
        for radiator in self.radiators.iter().filter(|r| r.kind != RadiatorKind::Inner) {
            let node = &mut self.elements[radiator.element].nodes[radiator.terminal];
            if *node == Node::Outside {
                *node = around;
            }
        }
        for node in [&mut self.rear, &mut self.front] {
            if *node == Node::Outside {
                *node = around;
            }
        }
    }
}

/// Index of (i, j), i <= j, in a packed upper triangle of an n x n matrix.
#[inline(always)]
pub(crate) fn packed(n: usize, i: usize, j: usize) -> usize {
    let (i, j) = if i <= j { (i, j) } else { (j, i) };
    i * n - i * (i + 1) / 2 + j
}
