//! Sizes of a ready outline, each refused at its own field.

use ground::geom::COINCIDENT;
use ground::reader::{Range, Reader};

/// Reads sizes below `/say/shape`.
pub struct Sizes<'r, 'a> {
    pub reader: &'r mut Reader<'a>,
}

impl Sizes<'_, '_> {
    pub fn size(&mut self, field: &str, text: &str) -> Option<f64> {
        self.reader.length(&format!("/say/shape/{field}"), text, Range::AboveZero)
    }

    pub fn size_or(&mut self, field: &str, text: &str) -> Option<f64> {
        self.reader.length_or(&format!("/say/shape/{field}"), text, Range::ZeroUp, 0.0)
    }

    pub fn refuse<T>(&mut self, field: &str, message: &str, mend: &str) -> Option<T> {
        self.reader.refuse_at(&format!("/say/shape/{field}"), message, mend);
        None
    }

    /// The value, when it is less than another.
    pub fn below(&mut self, field: &str, value: f64, most: f64, of: &str) -> Option<f64> {
        if value < most - COINCIDENT {
            return Some(value);
        }
        let most = self.reader.display.length_unit(most);
        self.refuse(field, &format!("this leaves nothing of {of}"), &format!("write less than {most}"))
    }

    pub fn box_of(&mut self, width: &str, height: &str) -> Option<[f64; 2]> {
        let (w, h) = (self.size("width", width), self.size("height", height));
        Some([w?, h?])
    }
}
