//! Names of sides as they are saved; a job of before has one word for one or two of them.

use std::fmt;

use serde::de::{Deserializer, SeqAccess, Visitor};

pub fn older_sides<'de, D: Deserializer<'de>>(from: D) -> Result<Vec<String>, D::Error> {
    from.deserialize_any(Sides)
}

struct Sides;

impl<'de> Visitor<'de> for Sides {
    type Value = Vec<String>;

    fn expecting(&self, f: &mut fmt::Formatter) -> fmt::Result {
        f.write_str("names of sides")
    }

    fn visit_str<E>(self, word: &str) -> Result<Vec<String>, E> {
        let none = ["", "all", "none"].contains(&word);
        Ok(if none { Vec::new() } else { word.split('_').map(String::from).collect() })
    }

    fn visit_seq<A: SeqAccess<'de>>(self, mut list: A) -> Result<Vec<String>, A::Error> {
        let mut out = Vec::new();
        while let Some(name) = list.next_element()? {
            out.push(name);
        }
        Ok(out)
    }
}
