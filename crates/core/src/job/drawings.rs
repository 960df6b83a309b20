//! What the job's drawings say in their title block, and how their views stand.

use drawing::dimensioned::{Head, Projection, ShopMark};
use ground::quantity::LengthUnit;
use ground::{said, spoken, word};

use super::Job;

word! {
    /// How views stand to one another.
    pub enum ViewAngle {
        /// First angle in a job of millimetres, third angle in one of inches (common practice).
        #[default]
        Usual,
        First,
        Third,
    }
}

spoken! {
    /// The title block of the job's drawings.
    pub struct Drawings {
        pub angle: ViewAngle,
        /// Name of the shop.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub shop: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub drawn: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub checked: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub date: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub revision: String,
        /// General tolerances, as the drawing names them: `ISO 2768-m`.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub tolerances: String,
        /// What is done to every surface.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub surfaces: String,
        /// What is done to every edge: `broken 0.3`.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub edges: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub note: String,
        /// The shop's mark as a picture. A text does not tell it.
        #[serde(skip_serializing_if = "Option::is_none")]
        pub mark: Option<ShopPicture>,
    }
}

said! {
    /// A picture that is kept beside the jobs.
    pub struct ShopPicture {
        /// Digest of the kept file (SHA-256).
        pub file: String,
        /// Its name as it was brought in.
        pub name: String,
    }
}

impl Job {
    /// The head of its drawings; of the shop's mark only the name, which is all that a job has of it.
    pub fn drawing_head(&self) -> Head {
        let told = self.drawings.clone().unwrap_or_default();
        let projection = match (told.angle, self.display.length) {
            (ViewAngle::First, _) | (ViewAngle::Usual, LengthUnit::Mm) => Projection::First,
            _ => Projection::Third,
        };
        Head {
            projection,
            shop: told.shop,
            job: [self.number.as_str(), self.title.as_str()].join(" ").trim().into(),
            customer: self.customer.clone(),
            drawn: told.drawn,
            checked: told.checked,
            date: told.date,
            revision: told.revision,
            class: told.tolerances,
            surfaces: told.surfaces,
            edges: told.edges,
            note: told.note,
            mark: told.mark.map_or(ShopMark::None, |m| ShopMark::Missing(m.name)),
            told: Vec::new(),
        }
    }

    /// The head of the drawing of a piece or a frame.
    pub fn drawing_head_of(&self, id: &str) -> Head {
        let piece = self.pieces.iter().find(|p| p.id == id);
        let frame = self.frames.iter().find(|f| f.id == id);
        let finish = piece.map_or("", |p| &p.finish);
        let assembly = piece.map(|p| &p.assembly).or(frame.map(|f| &f.assembly)).map_or("", |a| a);
        let told = [("Finish: ", finish), ("Goes into ", assembly)];
        let told = told.iter().filter(|(_, text)| !text.trim().is_empty());
        let told = told.map(|(of, text)| format!("{of}{}", text.trim())).collect();
        Head { told, ..self.drawing_head() }
    }
}
