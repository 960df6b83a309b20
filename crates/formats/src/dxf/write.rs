//! The flat pattern as a DXF: cuts, bend lines and rolled zones on layers of their own, marks that say what
//! is what.

use glam::DVec2;
use steelk_core::geom::Contour;
use steelk_core::quantity::trim_number;
use steelk_core::result::{BendMark, PieceResult};
use steelk_core::sheet::contours;

use super::file::File;
use super::texts::{LETTER, Room, Texts, about, beside};
use super::{BEND_DOWN, BEND_UP, CUT, MARKS, ROLL_DOWN, ROLL_UP};

/// Layers and their colours by number.
const LAYERS: [(&str, i64); 6] =
    [(CUT, 7), (BEND_UP, 5), (BEND_DOWN, 30), (ROLL_UP, 4), (ROLL_DOWN, 40), (MARKS, 8)];

/// In the piece's unit. `saved_at`, seconds since 1970, is the time in its head: the same job gives the same
/// bytes.
pub fn write(piece: &PieceResult, saved_at: i64) -> Vec<u8> {
    let unit = piece.display.length;
    let own = |p: DVec2| p / unit.mm();
    let mut d = Drawn { file: File::default(), mm: unit.mm(), texts: Texts::default(), beside: Vec::new() };
    for c in contours(piece) {
        d.contour(CUT, c);
    }
    let b = piece.flat.outer.bounds();
    let small = (b.size().min_element() / 60.0).clamp(1.5, 4.0);
    for bend in &piece.flat.bends {
        d.bend(bend, small);
    }
    for g in &piece.flat.guides {
        let (from, to) = (DVec2::from(g.from), DVec2::from(g.to));
        let letters = g.text.chars().count();
        if from.distance(to) > 1e-6 {
            d.file.line(MARKS, own(from), own(to));
        }
        if letters > 0 {
            let height = (b.size().min_element() / 25.0).clamp(2.0, 8.0);
            d.text(
                if from.distance(to) > 1e-6 {
                    beside(from, to, letters, height)
                } else {
                    about(from, letters, height)
                },
                &g.text,
            );
        }
    }
    // Pressed shapes are marked, not cut: footprint, and which side they stand out on.
    for p in &piece.flat.pressed {
        d.contour(MARKS, &p.footprint);
        d.text(about(p.at.into(), p.text.chars().count(), small), &p.text);
    }
    // What found no room stands under the piece's name.
    let height = (b.size().min_element() / 20.0).clamp(2.0, 8.0);
    let name = crate::name::file_stem(piece).replace('_', " ");
    let mut foot = DVec2::new(b.min.x, b.min.y - 2.0 * height);
    for (k, said) in std::iter::once(name).chain(std::mem::take(&mut d.beside)).enumerate() {
        let h = if k == 0 { height } else { small.min(height) };
        d.file.text(MARKS, own(foot), h / unit.mm(), 0.0, &said);
        foot.y -= 1.8 * h;
    }
    let mut drawn = b;
    drawn.add(foot);
    drawn.min /= unit.mm();
    drawn.max /= unit.mm();
    d.file.finish(&LAYERS, unit, drawn, saved_at)
}

struct Drawn {
    file: File,
    mm: f64,
    texts: Texts,
    /// Texts that found no room.
    beside: Vec<String>,
}

impl Drawn {
    fn contour(&mut self, layer: &str, c: &Contour) {
        if let Some((centre, radius)) = c.as_circle() {
            self.file.circle(layer, centre / self.mm, radius / self.mm);
        } else {
            let corners: Vec<(DVec2, f64)> = c.vertices.iter().map(|v| (v.p / self.mm, v.bulge)).collect();
            self.file.polyline(layer, &corners);
        }
    }

    /// A bend says its angle and radius along its longest part; a roll in its middle.
    fn bend(&mut self, bend: &BendMark, height: f64) {
        let layer = match (bend.rolled, bend.up) {
            (true, true) => ROLL_UP,
            (true, false) => ROLL_DOWN,
            (false, true) => BEND_UP,
            (false, false) => BEND_DOWN,
        };
        for [from, to] in bend.lines() {
            self.file.line(layer, DVec2::from(from) / self.mm, DVec2::from(to) / self.mm);
        }
        let (does, way) = (if bend.rolled { "ROLL" } else { "BEND" }, if bend.up { "UP" } else { "DOWN" });
        // The sign for degrees that every reader of the format knows; it is one letter.
        let said =
            format!("{does} {way} {}%%d R{}", trim_number(bend.angle.to_degrees(), 2), bend.radius_text);
        let letters = said.chars().count() - 2;
        let [from, to] = bend.longest().map(DVec2::from);
        let fits = from.distance(to) / (letters as f64 * LETTER);
        self.text(beside(from, to, letters, height.min(fits).max(1.0)), &said);
    }

    fn text(&mut self, rooms: Vec<Room>, said: &str) {
        match self.texts.place(rooms) {
            Some(r) => self.file.text(MARKS, r.at / self.mm, r.height / self.mm, r.along.to_angle(), said),
            None => self.beside.push(said.into()),
        }
    }
}
