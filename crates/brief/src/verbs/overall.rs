//! `overall width`, `thickness`, `flat length` …: how far the whole reaches.

use grammar::*;
use ground::reader::{Range, Reader};
use serde_json::json;

use super::tolerance::{TOLERANCE, ToldLength};
use super::{Look, Reading, Spoken, Standing, Tie, Tolerance, Wanted};
use crate::model::Model;

pub static VERB: Verb = Verb {
    tag: "overall",
    stem: "size",
    about: "How far the whole reaches: over all, its thickness, or its flat.",
    role: Role::Other,
    starts: &[
        Start { key: 'o', name: "overall size", mm: "overall length 100", inch: "overall length 4" },
        Start { key: 't', name: "thickness", mm: "thickness 3", inch: "thickness 1/8" },
    ],
    offers: &[],
    sentence: &[
        Pick::new("/size", "size", SIZES).begins().part(),
        length("/value", "size"),
        TOLERANCE,
        clause_when(
            When::IsNot("/size", &["thickness"]),
            &[word("is"), Pick::new("/is", "measured", EXTENTS).part()],
        ),
    ],
    examples: &[
        "overall width 260 ± 0.5, is along east",
        "overall height 60 plus 0.5 minus 0, is upwards",
        "thickness 3",
        "flat length 243.6, is along east in the flat",
    ],
};

const SIZES: &[(&str, &str)] = &[
    ("length", "Overall length|overall length"),
    ("width", "Overall width|overall width"),
    ("height", "Overall height|overall height|overall depth"),
    ("thickness", "Thickness|thickness"),
    ("flat_length", "Flat length|flat length|developed length"),
    ("flat_width", "Flat width|flat width"),
];

const EXTENTS: &[(&str, &str)] = &[
    ("", "not tied"),
    ("east", "along east"),
    ("north", "along north"),
    ("up", "upwards"),
    ("flat_east", "along east in the flat"),
    ("flat_north", "along north in the flat"),
];

word! {
    /// What the drawing calls it.
    pub enum OverallSize {
        #[default]
        Length,
        Width,
        Height,
        Thickness,
        FlatLength,
        FlatWidth,
    }
}

word! {
    /// Which extent of the model it is.
    pub enum Extent {
        #[default]
        #[serde(rename = "")]
        Untied,
        East,
        North,
        Up,
        FlatEast,
        FlatNorth,
    }
}

impl Extent {
    fn is_untied(&self) -> bool {
        *self == Extent::Untied
    }

    fn of(self, model: &Model) -> Result<f64, String> {
        let flat = |k: usize| model.flat.map(|f| f[k]).ok_or_else(|| "a frame has no flat".to_string());
        let (low, high) = if matches!(self, Extent::East | Extent::North | Extent::Up) {
            model.extent()
        } else {
            Default::default()
        };
        match self {
            Extent::Untied => Err("it is not tied".into()),
            Extent::East => Ok(high.x - low.x),
            Extent::North => Ok(high.y - low.y),
            Extent::Up => Ok(high.z - low.z),
            Extent::FlatEast => flat(0),
            Extent::FlatNorth => flat(1),
        }
    }
}

spoken! {
    /// How far the whole reaches.
    pub struct OverallFigure {
        /// What the drawing calls it.
        pub size: OverallSize,
        pub value: String,
        #[serde(skip_serializing_if = "Option::is_none")]
        pub tolerance: Option<Tolerance>,
        /// Which extent of the model it is; nothing for the thickness, which is its own.
        #[serde(skip_serializing_if = "Extent::is_untied")]
        pub is: Extent,
    }
}

struct OverallSpec {
    size: OverallSize,
    told: ToldLength,
    is: Extent,
}

impl Spoken for OverallFigure {
    fn read(&self, reader: &mut Reader) -> Option<Box<dyn Wanted>> {
        let told = ToldLength::read(reader, &self.value, Range::AboveZero, self.tolerance.as_ref())?;
        Some(Box::new(OverallSpec { size: self.size, told, is: self.is }))
    }
}

impl Wanted for OverallSpec {
    fn look(&self, at: &Standing) -> Vec<Look> {
        let reading = match (self.size, self.is) {
            (OverallSize::Thickness, _) => match at.model.thickness {
                Some(t) => Reading::Is(t, Vec::new()),
                None => Reading::Lost("a frame has no one thickness".into()),
            },
            (_, Extent::Untied) => Reading::Untied,
            (_, is) => Reading::of(is.of(at.model), &[]),
        };
        let more = match self.size {
            OverallSize::Thickness => ["too thick", "too thin"],
            OverallSize::Height => ["too high", "too low"],
            OverallSize::Width | OverallSize::FlatWidth => ["too wide", "too narrow"],
            _ => ["too long", "too short"],
        };
        vec![self.told.look(at, more, reading)]
    }

    fn ties(&self, at: &Standing) -> Vec<Tie> {
        if self.size == OverallSize::Thickness || !self.is.is_untied() {
            return Vec::new();
        }
        use Extent::{East, FlatEast, FlatNorth, North, Up};
        // Where the words and the model lie alike, that is the likeliest.
        let (first, rest): (Extent, &[Extent]) = match self.size {
            OverallSize::Length => (East, &[North, Up]),
            OverallSize::Width => (North, &[East, Up]),
            OverallSize::Height => (Up, &[North, East]),
            OverallSize::FlatLength => (FlatEast, &[FlatNorth]),
            _ => (FlatNorth, &[FlatEast]),
        };
        [(first, 0)]
            .into_iter()
            .chain(rest.iter().map(|e| (*e, 1)))
            .filter_map(|(extent, rank)| {
                let tag = json!(extent);
                let words = EXTENTS.iter().find(|e| tag == e.0).map_or("", |e| e.1);
                let value = extent.of(at.model).ok().filter(|v| self.told.allows(at, *v))?;
                Some(Tie {
                    fields: vec![("/say/is", tag)],
                    value,
                    said: format!("the extent {words}"),
                    names: Vec::new(),
                    rank,
                })
            })
            .collect()
    }
}
