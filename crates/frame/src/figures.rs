//! Figures of a frame as a whole, each with its working.

use super::FrameResult;
use super::list::run;
use crate::choices::WeldKind;
use ground::quantity::counted;
use ground::working::{Term, Working};
use sheet::result::FigureResult;

/// Figures of the frame as a whole.
pub fn figures(r: &FrameResult) -> Vec<FigureResult> {
    let d = &r.display;
    let plain = |key: &str, label: &str, value: f64, text: String, working: Working| FigureResult {
        key: key.into(),
        label: label.into(),
        value,
        text,
        main: true,
        working,
    };
    let bars: f64 = r.facts.iter().map(|f| f.mass).sum();
    let mass = r.mass();
    let plates = mass - bars;
    let centre = r.centre();
    let weld: f64 = r.welds.iter().map(|w| w.length * w.count as f64).sum();
    let fillets = r.welds.iter().filter(|w| w.kind == WeldKind::Fillet).map(|w| w.count).sum::<usize>();
    let term = Term::plain;
    vec![
        plain(
            "mass",
            "Mass",
            mass,
            d.mass(mass),
            Working {
                rule: "Sum of all members and plates, welds left out".into(),
                source: "true section area × length of material at each point of the section × density"
                    .into(),
                formula: "m = m_bars + m_plates".into(),
                filled: format!("{} + {} = {}", d.mass(bars), d.mass(plates), d.mass(mass)),
                terms: vec![
                    term("m_bars", "members", d.mass(bars)),
                    term("m_plates", "plates", d.mass(plates)),
                ],
                assumption: None,
            },
        ),
        plain(
            "centre",
            "Centre of gravity",
            centre.z,
            format!("{}, {}, {}", d.length(centre.x), d.length(centre.y), d.length_unit(centre.z)),
            Working {
                rule: "First moments over the mass".into(),
                source: "statics".into(),
                formula: "c = Σ mᵢ·cᵢ / Σ mᵢ".into(),
                filled: format!(
                    "east {}, north {}, up {}",
                    d.length(centre.x),
                    d.length(centre.y),
                    d.length_unit(centre.z)
                ),
                terms: vec![term(
                    "mᵢ",
                    "mass of each piece",
                    counted(
                        r.members.len() + r.plates.iter().map(|p| p.places.len()).sum::<usize>(),
                        "piece",
                    ),
                )],
                assumption: None,
            },
        ),
        plain(
            "weld",
            "Welds",
            weld,
            format!("{}, {}", run(d, weld), d.mass(r.weld_mass())),
            Working {
                rule: "Round each end that meets another; both sides of gussets; smallest fillet leg by the \
                    thicker part"
                    .into(),
                source: "AWS D1.1 minimum fillet sizes; throat 0.7 leg, metal = throat² × length + 10 %, \
                    grooves by the section that their edges leave open (common practice)"
                    .into(),
                formula: "m = Σ (0.7·z)²·L·1.1·ρ".into(),
                filled: format!(
                    "{} welds, {fillets} of them fillets: {} of weld, {} of metal",
                    r.welds.len(),
                    run(d, weld),
                    d.mass(r.weld_mass())
                ),
                terms: Vec::new(),
                assumption: Some(
                    "sizes are the rule's smallest where none is told; the load on a weld is \
                    not looked at"
                        .into(),
                ),
            },
        ),
    ]
}
