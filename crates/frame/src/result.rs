//! Everything about one frame, worked out.

use std::collections::BTreeSet;
use std::sync::{Arc, OnceLock};

use glam::DVec3;

use super::{Cut, Group, Joint, Lengths, Member, Node, Profile, Weld};
use crate::build::overrides::Assembly;
use crate::build::plates::Corner;
use crate::build::sides::{HOPPER_SIDE, TRANSITION_SIDE};
use crate::choices::JointChoice;
use crate::document::Frame;
use ground::geom::ROUNDING;
use ground::quantity::Display;
use ground::reference::Reference;
use sheet::result::{FigureResult, Finding, LineFault, PieceResult, Severity};

/// A member with what is worked out of it.
#[derive(Clone, Debug)]
pub struct MemberFacts {
    pub lengths: Lengths,
    /// mm³.
    pub volume: f64,
    pub centre: DVec3,
    /// kg.
    pub mass: f64,
    pub cuts: [Cut; 2],
}

/// A plate of the frame: one body, standing in several places.
#[derive(Clone, Debug)]
pub struct Plate {
    /// `cap-1`, `lug-1.upright`.
    pub name: String,
    pub line: String,
    pub call: String,
    pub piece: Arc<PieceResult>,
    /// Names of all that are this body.
    pub places: Vec<PlatePlace>,
    pub lifting: bool,
    /// Outside and wall of the tube that it is cut from, mm; none for plate.
    pub tube: Option<[f64; 2]>,
}

#[derive(Clone, Debug)]
pub struct PlatePlace {
    pub name: String,
    /// Flat x, y and up, and where the flat's origin stands.
    pub x: DVec3,
    pub y: DVec3,
    pub z: DVec3,
    pub o: DVec3,
    pub assembly: Option<(usize, usize)>,
    /// Where it meets the next plate of its line edge to edge.
    pub corner: Option<Corner>,
}

/// Everything about one frame.
#[derive(Clone, Debug)]
pub struct FrameResult {
    pub id: String,
    pub mark: String,
    pub name: String,
    pub quantity: usize,
    pub material: String,
    pub display: Display,
    pub made: bool,
    pub nodes: Vec<Node>,
    pub profiles: Vec<Profile>,
    pub members: Vec<Member>,
    pub facts: Vec<MemberFacts>,
    pub groups: Vec<Group>,
    pub joints: Vec<Joint>,
    /// The ways that each of them can be closed, the present one first.
    pub choices: Vec<Vec<JointChoice>>,
    pub plates: Vec<Plate>,
    pub welds: Vec<Weld>,
    pub assemblies: Vec<Assembly>,
    pub figures: Vec<FigureResult>,
    pub findings: Vec<Finding>,
    pub faults: Vec<LineFault>,
    /// How far it reaches, worked out where it is asked for.
    pub(crate) reach: OnceLock<Option<(DVec3, DVec3)>>,
}

impl FrameResult {
    /// Bare names of the plates between openings, each once: `south`, `face-2`.
    pub fn sides(&self) -> Vec<String> {
        let plates = self.plates.iter().filter(|p| [HOPPER_SIDE, TRANSITION_SIDE].contains(&&*p.call));
        let places = plates.flat_map(|p| &p.places).map(|place| Reference::parse(&place.name));
        let named = places.filter(|r| r.copy.is_none()).map(|r| r.part.to_string());
        named.collect::<BTreeSet<_>>().into_iter().collect()
    }

    /// Nothing made of it yet.
    pub(super) fn empty(frame: &Frame, display: Display) -> Self {
        Self {
            id: frame.id.clone(),
            mark: frame.mark.clone(),
            name: frame.name.clone(),
            quantity: 0,
            material: frame.material.clone(),
            display,
            made: false,
            nodes: Vec::new(),
            profiles: Vec::new(),
            members: Vec::new(),
            facts: Vec::new(),
            groups: Vec::new(),
            joints: Vec::new(),
            choices: Vec::new(),
            plates: Vec::new(),
            welds: Vec::new(),
            assemblies: Vec::new(),
            figures: Vec::new(),
            findings: Vec::new(),
            faults: Vec::new(),
            reach: OnceLock::new(),
        }
    }

    /// Mass of one, kg: members and plates.
    pub fn mass(&self) -> f64 {
        let plates: f64 = self.plates.iter().map(|p| p.piece.value("mass") * p.places.len() as f64).sum();
        self.facts.iter().map(|f| f.mass).sum::<f64>() + plates
    }

    /// Metal of all welds of one, kg.
    pub fn weld_mass(&self) -> f64 {
        self.welds.iter().map(|w| w.mass * w.count as f64).sum()
    }

    /// Centre of gravity of the whole.
    pub fn centre(&self) -> DVec3 {
        let mut sum = DVec3::ZERO;
        for f in &self.facts {
            sum += f.centre * f.mass;
        }
        for p in &self.plates {
            let middle = p.piece.flat_centroid();
            for q in &p.places {
                sum += (q.o + q.x * middle.x + q.y * middle.y + q.z * (p.piece.thickness / 2.0))
                    * p.piece.value("mass");
            }
        }
        let mass = self.mass();
        if mass > ROUNDING { sum / mass } else { DVec3::ZERO }
    }

    pub fn stops(&self) -> usize {
        self.faults.len() + self.findings.iter().filter(|f| f.severity == Severity::Stop).count()
    }

    pub fn figure(&self, key: &str) -> Option<&FigureResult> {
        self.figures.iter().find(|f| f.key == key)
    }
}
