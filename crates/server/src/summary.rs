//! What a revision comes to: sizes and masses, filed with it so that any two can be compared at a glance.

use serde::{Deserialize, Serialize};
use steelk_core::frame::FrameResult;
use steelk_core::quantity::{Display, counted};
use steelk_core::result::{Finding, JobResult, Severity};
use utoipa::ToSchema;

#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct PieceSummary {
    pub id: String,
    pub mark: String,
    pub quantity: usize,
    /// Printed.
    pub flat: String,
    pub mass: String,
}

#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Summary {
    pub pieces: Vec<PieceSummary>,
    /// What was filed before frames were counted has none.
    #[serde(default)]
    pub frames: Option<Vec<PieceSummary>>,
    /// Pieces and frames in their quantities.
    pub count: usize,
    pub mass: String,
    pub stops: usize,
    pub warns: usize,
}

pub fn summarise(result: &JobResult, display: &Display) -> Summary {
    let made = result.pieces.iter().filter(|p| p.made);
    let pieces: Vec<PieceSummary> = made
        .map(|p| PieceSummary {
            id: p.id.clone(),
            mark: p.mark.clone(),
            quantity: p.quantity,
            flat: format!(
                "{} × {}",
                p.display.length(p.value("flat_length")),
                p.display.length_unit(p.value("flat_width"))
            ),
            mass: p.display.mass(p.value("mass")),
        })
        .collect();
    let frame = |f: &FrameResult| PieceSummary {
        id: f.id.clone(),
        mark: f.mark.clone(),
        quantity: f.quantity,
        flat: counted(f.members.len(), "member"),
        mass: f.display.mass(f.mass()),
    };
    let frames: Vec<PieceSummary> = result.frames.iter().filter(|f| f.made).map(|f| frame(f)).collect();
    let of_frames = result
        .frames
        .iter()
        .flat_map(|f| f.findings.iter().chain(f.plates.iter().flat_map(|p| &p.piece.findings)));
    let findings: Vec<&Finding> = result.pieces.iter().flat_map(|p| &p.findings).chain(of_frames).collect();
    let faults: usize = result
        .pieces
        .iter()
        .map(|p| p.faults.len())
        .chain(result.frames.iter().map(|f| f.faults.len()))
        .sum();
    let of = |severity: Severity| findings.iter().filter(|f| f.severity == severity).count();
    Summary {
        count: pieces.iter().chain(&frames).map(|p| p.quantity).sum(),
        pieces,
        frames: Some(frames),
        mass: display.mass(result.mass()),
        stops: faults + of(Severity::Stop),
        warns: of(Severity::Warn),
    }
}

/// What changed in size and mass from one revision to the next, in words.
pub fn changes(before: &Summary, after: &Summary) -> Vec<String> {
    let mut out = Vec::new();
    // Revisions filed before frames were counted say nothing of them.
    let with_frames = before.frames.is_some() && after.frames.is_some();
    let all = |s: &Summary| -> Vec<PieceSummary> {
        s.pieces.iter().chain(s.frames.iter().flatten().filter(|_| with_frames)).cloned().collect()
    };
    let (old, new) = (all(before), all(after));
    for p in &new {
        match old.iter().find(|q| q.id == p.id) {
            None => out.push(format!("{} new: {}, {}", p.mark, p.flat, p.mass)),
            Some(q) => {
                let mut parts = Vec::new();
                let mut step = |a: &str, b: &str| {
                    if a != b {
                        parts.push(format!("{a} → {b}"));
                    }
                };
                step(&q.flat, &p.flat);
                step(&q.mass, &p.mass);
                step(&format!("×{}", q.quantity), &format!("×{}", p.quantity));
                if !parts.is_empty() {
                    out.push(format!("{}: {}", p.mark, parts.join(", ")));
                }
            }
        }
    }
    out.extend(
        old.iter().filter(|q| new.iter().all(|p| p.id != q.id)).map(|q| format!("{} taken out", q.mark)),
    );
    if before.mass != after.mass {
        out.push(format!("job {} → {}", before.mass, after.mass));
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    fn of(frames: Option<&str>) -> Summary {
        let frame = |mass: &str| PieceSummary {
            id: "f".into(),
            mark: "F-1".into(),
            quantity: 1,
            flat: "17 members".into(),
            mass: mass.into(),
        };
        Summary { frames: frames.map(|m| vec![frame(m)]), ..Summary::default() }
    }

    #[test]
    fn a_frame_that_changed_is_told_and_one_that_was_never_counted_is_not_new() {
        assert_eq!(changes(&of(Some("190 kg")), &of(Some("201 kg"))), ["F-1: 190 kg → 201 kg"]);
        assert!(changes(&of(None), &of(Some("190 kg"))).is_empty());
        assert_eq!(
            changes(&of(Some("190 kg")), &Summary { frames: Some(Vec::new()), ..Summary::default() }),
            ["F-1 taken out"]
        );
        // As it was filed before: without the field.
        let old: Summary =
            serde_json::from_str(r#"{ "pieces": [], "count": 0, "mass": "", "stops": 0, "warns": 0 }"#)
                .unwrap();
        assert!(old.frames.is_none());
    }

    /// Every step of a piece is told once, in words; what stays is not.
    #[test]
    fn what_changed_in_a_piece_is_told_and_what_stays_is_not() {
        let piece = |id: &str, quantity: usize, flat: &str, mass: &str| PieceSummary {
            id: id.into(),
            mark: format!("P-{id}"),
            quantity,
            flat: flat.into(),
            mass: mass.into(),
        };
        let of =
            |pieces: Vec<PieceSummary>, mass: &str| Summary { pieces, mass: mass.into(), ..of(Some("9 kg")) };
        let before =
            of(vec![piece("1", 1, "100 × 50 mm", "1 kg"), piece("2", 4, "80 × 20 mm", "2 kg")], "12 kg");
        let after =
            of(vec![piece("1", 3, "120 × 50 mm", "1 kg"), piece("3", 1, "9 × 9 mm", "1 kg")], "13 kg");
        assert_eq!(
            changes(&before, &after),
            [
                "P-1: 100 × 50 mm → 120 × 50 mm, ×1 → ×3",
                "P-3 new: 9 × 9 mm, 1 kg",
                "P-2 taken out",
                "job 12 kg → 13 kg"
            ]
        );
        assert!(changes(&after, &after).is_empty());
    }

    /// What is counted is what the results say: quantities, masses, and stops with the faults among them.
    #[test]
    fn a_summary_counts_pieces_in_their_quantities_and_faults_as_stops() {
        let job: steelk_core::job::Job =
            serde_json::from_value(serde_json::json!({ "format": 1, "title": "x",
            "pieces": [
                { "id": "a", "mark": "A", "name": "", "quantity": "3", "material": "s235", "thickness": "10",
                  "lines": [{ "id": "start-1", "say": { "verb": "start_plate", "width": "100",
                      "height": "100" } }] },
                { "id": "b", "mark": "B", "name": "", "quantity": "2", "material": "s235", "thickness": "10",
                  "lines": [{ "id": "start-1", "say": { "verb": "start_plate", "width": "many",
                      "height": "9" } }] }
            ] }))
            .unwrap();
        let result = steelk_core::evaluate::evaluate(&job);
        let s = summarise(&result, &Display::default());
        // 100 × 100 × 10 mm at 7.85 kg/dm³, three times; the second cannot be made and stops.
        assert_eq!((s.pieces.len(), s.count, s.stops), (1, 3, 1));
        assert!(
            s.pieces[0].flat.starts_with("100") && s.pieces[0].mass.starts_with("0.785"),
            "{:?}",
            s.pieces
        );
        assert!(s.mass.starts_with("2.35"), "{}", s.mass);
    }
}
