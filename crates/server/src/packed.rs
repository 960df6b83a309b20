//! Lists of numbers as the web takes them: packed, so that thousands are one text.

use base64::display::Base64Display;
use base64::prelude::BASE64_STANDARD;
use serde::{Serialize, Serializer};
use steelk_core::halt;
use utoipa::ToSchema;

/// A list of numbers in base64: points and places as little-endian 32 bit floats; the others as steps from
/// the number one group before, each step in 7 bit parts, the lowest first, negative ones odd (`-1` is 1, `1`
/// is 2).
#[derive(Default, ToSchema)]
#[schema(value_type = String)]
pub struct Packed(Vec<u8>);

/// Written part by part, as long as somebody waits for it.
impl Serialize for Packed {
    fn serialize<S: Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
        to.collect_str(&Base64Display::new(&self.0, &BASE64_STANDARD))
    }
}

/// Names told once and meant by their number.
#[derive(Default)]
pub struct Names<'a> {
    pub told: Vec<String>,
    pub known: std::collections::HashMap<&'a str, u32>,
}

impl<'a> Names<'a> {
    pub fn number(&mut self, name: &'a str) -> u32 {
        *self.known.entry(name).or_insert_with(|| {
            self.told.push(name.to_owned());
            self.told.len() as u32 - 1
        })
    }

    pub fn steps(&mut self, names: impl Iterator<Item = &'a str>) -> Packed {
        steps(names.map(|n| [self.number(n)]))
    }
}

pub fn floats(numbers: impl Iterator<Item = f64>) -> Packed {
    let bytes = |v: f64| {
        halt::often();
        (v as f32).to_le_bytes()
    };
    Packed(numbers.flat_map(bytes).collect())
}

/// Neighbours in a mesh have numbers near one another: most steps are one byte.
pub fn steps<const N: usize>(groups: impl Iterator<Item = [u32; N]>) -> Packed {
    let mut out = Vec::new();
    let mut last = [0u32; N];
    for group in groups {
        halt::often();
        for (v, l) in group.into_iter().zip(&mut last) {
            let step = i64::from(v) - i64::from(*l);
            *l = v;
            let mut rest = ((step << 1) ^ (step >> 63)) as u64;
            while rest >= 0x80 {
                out.push(rest as u8 | 0x80);
                rest >>= 7;
            }
            out.push(rest as u8);
        }
    }
    Packed(out)
}

#[cfg(test)]
mod tests {
    use base64::Engine;

    use super::*;

    /// Unpacked by the words of `Packed`, not by its code.
    fn unpacked(p: &Packed, group: usize) -> Vec<i64> {
        let text = serde_json::to_string(p).unwrap();
        let raw = BASE64_STANDARD.decode(text.trim_matches('"')).unwrap();
        let (mut out, mut value, mut shift) = (Vec::<i64>::new(), 0i64, 0);
        for byte in raw {
            value |= i64::from(byte & 127) << shift;
            shift += 7;
            if byte < 128 {
                let step = if value % 2 == 1 { -(value + 1) / 2 } else { value / 2 };
                let before = out.len().checked_sub(group).map_or(0, |i| out[i]);
                out.push(before + step);
                (value, shift) = (0, 0);
            }
        }
        out
    }

    #[test]
    fn numbers_come_back_as_they_were() {
        let far = u32::MAX / 4;
        let groups = [[0, far, 7], [1, 0, 7], [far, 1, 6], [0, far - 1, 300]];
        let packed = steps(groups.into_iter());
        let wanted: Vec<i64> = groups.iter().flatten().map(|v| i64::from(*v)).collect();
        assert_eq!(unpacked(&packed, 3), wanted);
        assert_eq!(unpacked(&steps([[3], [3], [2]].into_iter()), 1), [3, 3, 2]);
        assert!(unpacked(&Packed::default(), 1).is_empty());
    }

    /// Neighbours in a mesh differ by little: a byte a number, whatever the numbers are.
    #[test]
    fn near_numbers_take_a_byte_each() {
        let packed = steps((1_000_000u32..1_001_000).map(|v| [v, v + 9]));
        assert!(packed.0.len() < 2 * 1000 + 10, "{}", packed.0.len());
    }

    #[test]
    fn points_are_32_bit_floats_the_low_byte_first() {
        let packed = floats([1.5, -2.25].into_iter());
        assert_eq!(packed.0, [1.5f32.to_le_bytes(), (-2.25f32).to_le_bytes()].concat());
    }

    /// A name that is told often is sent once.
    #[test]
    fn names_are_told_once() {
        let mut names = Names::default();
        let first = names.steps(["a", "b", "a"].into_iter());
        let then = names.steps(["c", "b"].into_iter());
        assert_eq!(names.told, ["a", "b", "c"]);
        assert_eq!(unpacked(&first, 1), [0, 1, 0]);
        assert_eq!(unpacked(&then, 1), [2, 1]);
    }
}
