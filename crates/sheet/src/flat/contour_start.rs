//! A contour that was told side by side, as a blank: its sides with their names, and what was found of them;
//! or in words why there is none.

use std::f64::consts::TAU;

use ground::geom::{Contour, chamfer, fillet};
use ground::quantity::Display;
use ground::reader::Tell;
use ground::reference;
use ground::working::{Term, Working};

use super::blank::{Blank, outline_named};
use super::corners::fits;
use super::spec::{Begins, Turn};
use crate::choices::Treatment;
use crate::contour::{
    Answer, Figure, FoundSide, Named, Says, System, Told, family, figure_field, is_thorough, missing, open,
};

/// What is done to the corner behind a side.
#[derive(Clone, Copy, Debug)]
pub struct CornerCut {
    pub treatment: Treatment,
    pub size: f64,
}

/// A told contour, worked out.
#[derive(Default)]
pub struct ContourStart {
    /// None where it was not found.
    outer: Option<Contour>,
    ids: Vec<String>,
    sides: Vec<FoundSide>,
    /// What of them was not told.
    open: Vec<(usize, Figure)>,
    /// What nobody told, and is taken as usual.
    taken: Vec<&'static str>,
    /// Where figures are missing: some of the outlines that fit.
    family: Vec<Contour>,
    at: &'static str,
}

/// What an answer comes to: a blank, or what is said of it.
pub fn outcome(
    tell: &mut Tell,
    named: &Named,
    told: &Told,
    system: &System,
    answer: Answer,
    cuts: &[Option<CornerCut>],
) -> ContourStart {
    let mut start = ContourStart { ids: named.ids.to_vec(), at: named.at, ..ContourStart::default() };
    let mut say = Says { tell, named, told };
    match answer {
        Answer::Found(found) => {
            let usual = [
                (system.turned_freely, "no direction is told: the first side goes east"),
                (found.either_way, "it fits either way round: the material lies to the left"),
                (!is_thorough(system), "too large to be looked through for other outlines that fit"),
            ];
            start.taken = usual.into_iter().filter(|u| u.0).map(|u| u.1).collect();
            start.open = open(told);
            start.outer = found.contour.and_then(|c| Corners { tell: &mut *say.tell, named }.cut(c, cuts));
            start.sides = found.sides;
        }
        Answer::Several(found) => say.several(&found),
        Answer::Free(found, rank) => {
            say.missing(&missing(system, &found, &rank), rank.free.len());
            start.family = family(system, &found, &rank);
        }
        Answer::Unfit(misfit) => say.unfit(misfit),
        Answer::Contradicts => say.contradicts(),
    }
    start
}

/// Cuts the corners that are told to be cut.
struct Corners<'s> {
    tell: &'s mut Tell,
    named: &'s Named<'s>,
}

impl Corners<'_> {
    /// The contour with the corners cut that are told to be; none where one has no room.
    fn cut(&mut self, contour: Contour, cuts: &[Option<CornerCut>]) -> Option<Contour> {
        let mut out = contour.outward();
        for treatment in [Treatment::Radius, Treatment::Chamfer] {
            let picks = self.picks(&out, cuts, treatment)?;
            if let Some(short) = fits(&out, treatment, &picks, &[]) {
                let d = &self.tell.display;
                let side = self.named.id(out.vertices[short.side].tag as usize);
                let message = format!(
                    "its corners need {} of {side}, which has {}",
                    d.length_unit(short.need),
                    d.length_unit(short.have)
                );
                let at = out.vertices[short.side].tag as usize;
                self.tell.refuse_at(&self.named.field(at, "corner"), message, "write smaller corners");
                return None;
            }
            out = match treatment {
                Treatment::Chamfer => chamfer(&out, &picks),
                _ => fillet(&out, &picks),
            };
        }
        Some(self.apart(out))
    }

    /// What a corner was cut to is no part of the side behind it: it gets a tag of its own, behind those of
    /// the sides.
    fn apart(&self, mut outer: Contour) -> Contour {
        let (n, m) = (outer.vertices.len(), self.named.ids.len() as u32);
        let tag = |i: usize| outer.vertices[i % n].tag;
        let is_cut = |i: &usize| tag(*i) == tag(i + 1) && outer.segment((i + 1) % n).is_line();
        // Behind the side that it was told of, whichever way the outline is walked.
        let told = |i: usize| {
            let (before, own) = (tag(i + n - 1), tag(i));
            (i, if (before + 1) % m == own { before } else { own })
        };
        let cut: Vec<(usize, u32)> = (0..n).filter(is_cut).map(told).collect();
        cut.into_iter().for_each(|(i, side)| outer.vertices[i].tag = m + side);
        outer
    }

    /// The vertices that are rounded or snipped, each with its size.
    fn picks(
        &mut self,
        outer: &Contour,
        cuts: &[Option<CornerCut>],
        treatment: Treatment,
    ) -> Option<Vec<(usize, f64)>> {
        let n = self.named.ids.len();
        let mut out = Vec::new();
        for (k, cut) in cuts.iter().enumerate() {
            let Some(cut) = cut.filter(|c| c.treatment == treatment) else { continue };
            // The corner between this side and the next, whichever way the outline is walked.
            let next = (k + 1) % n;
            let tag = |i: usize| outer.vertices[i].tag as usize;
            let m = outer.vertices.len();
            let is_it = |&i: &usize| {
                let (before, own) = (tag((i + m - 1) % m), tag(i));
                (before, own) == (k, next) || (before, own) == (next, k)
            };
            let at = (0..m).filter(is_it).find(|i| outer.corner(*i).is_some());
            match at {
                Some(i) => out.push((i, cut.size)),
                None => {
                    let message = format!("there is no corner between two lines behind {}", self.named.id(k));
                    self.tell.refuse_at(
                        &self.named.field(k, "corner"),
                        message,
                        "take it out, or tell an arc",
                    );
                    return None;
                }
            }
        }
        Some(out)
    }
}

impl Begins for ContourStart {
    fn blank(&self, turn: &mut Turn) -> Option<Blank> {
        let names = self.sides(turn.at.line);
        Some(outline_named(turn.at.line, self.outer.clone()?, names))
    }

    fn family(&self) -> &[Contour] {
        &self.family
    }

    fn sides(&self, line: &str) -> Vec<String> {
        let corners = self.ids.iter().map(|id| format!("corner-{id}"));
        self.ids.iter().cloned().chain(corners).map(|id| reference::part(line, id)).collect()
    }

    fn found(&self, d: &Display) -> Vec<(String, String)> {
        let of = |(k, figure): &(usize, Figure)| {
            let value = self.sides.get(*k)?.figure(*figure);
            let text = match figure {
                Figure::Length | Figure::Radius => d.length(value),
                _ => d.angle(value),
            };
            Some((format!("{}/{k}/{}", self.at, figure_field(*figure)), text))
        };
        self.open.iter().filter_map(of).collect()
    }

    fn working(&self, d: &Display, line: &str) -> Option<(String, Working)> {
        if self.sides.is_empty() {
            return None;
        }
        let term = |(k, side): (usize, &FoundSide)| {
            let found = |figure| self.open.contains(&(k, figure));
            let mark = |figure| if found(figure) { " (found)" } else { "" };
            let heading = d.angle(side.heading.rem_euclid(TAU));
            let value = if side.sweep == 0.0 {
                format!("{}{} long at {heading}", d.fine(side.size), mark(Figure::Length))
            } else {
                format!(
                    "R{}{} through {}{}, setting out at {heading}",
                    d.fine(side.size),
                    mark(Figure::Radius),
                    d.angle(side.sweep.abs()),
                    mark(Figure::Sweep)
                )
            };
            let meaning = format!("from {}, {}", d.fine(side.from.x), d.fine(side.from.y));
            Term::plain(&self.ids[k], &meaning, value).of_line(line)
        };
        let (n, open) = (self.sides.len(), self.open.len());
        let working = Working {
            rule: "Sides of the contour, as told and as found from closing and from what holds between them"
                .into(),
            source: "geometry".into(),
            formula: "the sides, end to end, come back to the start".into(),
            filled: format!("{n} sides; {open} figures found"),
            terms: self.sides.iter().enumerate().map(term).collect(),
            assumption: (!self.taken.is_empty()).then(|| self.taken.join("; ")),
        };
        Some((format!("{n} sides, {open} figures found"), working))
    }
}
