//! The flat pattern as a DXF: cuts, bend lines and rolled zones on layers of their own, marks that say what
//! is what.

use glam::DVec2;
use steelk_core::geom::Contour;
use steelk_core::quantity::trim_number;
use steelk_core::result::{BendMark, BoreMark, PieceResult};
use steelk_core::sheet::{BoreKind, contours};

use super::file::File;
use super::texts::{LETTER, Room, Texts, about, beside};
use crate::layers::{BEND_DOWN, BEND_UP, CUT, DRILLED, MARKS, ROLL_DOWN, ROLL_UP};

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
    // Of drilled holes the cut has what goes through; the rest is drilled, and lies on layers of its own.
    let mut layers = LAYERS.to_vec();
    for b in &piece.flat.bores {
        for (layer, diameter) in drilled(b) {
            if !layers.iter().any(|l| l.0 == layer) {
                layers.push((layer, if b.bore.back { 2 } else { 3 }));
            }
            d.file.circle(layer, own(b.at.into()), diameter / 2.0 / unit.mm());
        }
    }
    let first_of = |name: &str| piece.flat.bores.iter().any(|b| b.name == name);
    for m in piece.flat.marks.iter().filter(|m| first_of(&m.name)) {
        d.text(about(m.at.into(), m.text.chars().count(), small), &m.text);
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
    d.file.finish(&layers, unit, drawn, saved_at)
}

/// The circles of a drilled hole beside what is cut, each with its layer.
fn drilled(b: &BoreMark) -> Vec<(&'static str, f64)> {
    let [drill, tap, csk, cbore] = DRILLED.map(|l| l[usize::from(b.bore.back)]);
    let blind = (!b.bore.through()).then_some((drill, b.bore.diameter));
    let thread = match b.bore.kind {
        BoreKind::Tapped { thread, .. } => Some((tap, thread.major)),
        _ => None,
    };
    let cone = b.bore.kind == BoreKind::Countersunk;
    let mouth = b.bore.mouth.map(|m| (if cone { csk } else { cbore }, m.diameter));
    [blind, thread, mouth].into_iter().flatten().collect()
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
        let does = match (bend.rolled, bend.creased) {
            (true, _) => "ROLL",
            (_, true) => "CREASE",
            _ => "BEND",
        };
        let way = if bend.up { "UP" } else { "DOWN" };
        let radius = if bend.creased { String::new() } else { format!(" R{}", bend.radius_text) };
        // The sign for degrees that every reader of the format knows; it is one letter.
        let said = format!("{does} {way} {}%%d{radius}", trim_number(bend.angle.to_degrees(), 2));
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
