//! Texts on a flat, each where no other stands.

use glam::DVec2;

/// Width of a letter of a text of height 1, widest letters and the space after them.
pub const LETTER: f64 = 0.95;

/// A text's room: left end of its foot, direction, height, width.
#[derive(Clone, Copy, Debug)]
pub struct Room {
    pub at: DVec2,
    pub along: DVec2,
    pub height: f64,
    pub width: f64,
}

impl Room {
    fn corners(&self) -> [DVec2; 4] {
        let (x, y) = (self.along * self.width, self.along.perp() * self.height);
        [self.at, self.at + x, self.at + x + y, self.at + y]
    }

    /// Two oblongs meet unless a direction of one of their sides tells them apart.
    pub fn meets(&self, other: &Room) -> bool {
        let (a, b) = (self.corners(), other.corners());
        [self.along, self.along.perp(), other.along, other.along.perp()].iter().all(|d| {
            let span = |c: &[DVec2; 4]| {
                c.iter()
                    .map(|p| p.dot(*d))
                    .fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)))
            };
            let ((a0, a1), (b0, b1)) = (span(&a), span(&b));
            a0 < b1 && b0 < a1
        })
    }
}

#[derive(Default)]
pub struct Texts {
    taken: Vec<Room>,
}

impl Texts {
    /// The first of the rooms where nothing stands yet.
    pub fn place(&mut self, rooms: impl IntoIterator<Item = Room>) -> Option<Room> {
        let free = rooms.into_iter().find(|r| !self.taken.iter().any(|t| t.meets(r)))?;
        self.taken.push(free);
        Some(free)
    }
}

/// Rooms for a text along a line: in its middle and towards its ends, on either side, large and then smaller.
/// `along` the text, left to right.
pub fn beside(from: DVec2, to: DVec2, letters: usize, height: f64) -> Vec<Room> {
    let dir = (to - from).normalize_or_zero();
    let dir = if dir.x < -1e-9 || dir.x.abs() <= 1e-9 && dir.y < 0.0 { -dir } else { dir };
    let mut out = Vec::new();
    for scale in [1.0, 0.7, 0.5] {
        let h = height * scale;
        let width = letters as f64 * LETTER * h;
        for along in [0.5, 0.3, 0.7, 0.15, 0.85] {
            let middle = from.lerp(to, along) - dir * (width / 2.0);
            out.extend([0.4, -1.4].map(|up| Room {
                at: middle + dir.perp() * (h * up),
                along: dir,
                height: h,
                width,
            }));
        }
    }
    out
}

/// Rooms for a text about a place, then above and below it.
pub fn about(at: DVec2, letters: usize, height: f64) -> Vec<Room> {
    let mut out = Vec::new();
    for scale in [1.0, 0.7, 0.5] {
        let h = height * scale;
        let width = letters as f64 * LETTER * h;
        for row in [0.0, 1.3, -1.3, 2.6, -2.6] {
            for side in [0.0, -width / 2.0, -width] {
                out.push(Room { at: at + DVec2::new(side, row * h), along: DVec2::X, height: h, width });
            }
        }
    }
    out
}
