//! What is offered where geometry of the flat was clicked: where a hand pointed as a line tells it, and lines
//! that say the thing that was meant.

use crate::common::*;
use steelk_core::evaluate::{Clicked, Offers, Target, offers};
use steelk_core::quantity::{Display, LengthUnit};
use steelk_core::result::PieceResult;

fn clicked(p: &PieceResult, what: Target, name: &str, at: [f64; 2]) -> Offers {
    offers(p, &Clicked { what, name: name.into(), line: String::new(), at })
}

fn say(o: &Offers, words: &str) -> serde_json::Value {
    let found = o.lines.iter().find(|l| l.words.starts_with(words));
    found.unwrap_or_else(|| panic!("{words}: {:?}", o.lines)).say.clone()
}

#[test]
fn a_place_on_a_plate_is_told_from_its_sides_to_half_a_millimetre_or_a_sixteenth() {
    let plate = piece("2", "", &["plate 100 x 60"]);
    let p = made(school(Default::default()), &plate);
    let o = clicked(&p, Target::Panel, "start-1.panel", [-19.74, -9.9]);
    assert_eq!(o.said, "start-1.panel · 30.5 from west, 20 from south");
    let place = &say(&o, "Punch a round hole")["place"];
    assert_eq!((place["on"].as_str(), place["x"]["distance"].as_str()), (Some("flat"), Some("30.5")));
    let mut inch = plate.clone();
    inch.thickness = "1/16".into();
    inch.display = Some(Display { length: LengthUnit::In, ..Display::default() });
    inch.lines = lines(&["plate 4 x 3"]);
    let p = made(school(Default::default()), &inch);
    let o = clicked(&p, Target::Panel, "start-1.panel", [25.4 * (1.3 - 2.0), 25.4 * (0.49 - 1.5)]);
    assert_eq!(o.said, "start-1.panel · 1.3125 from west, 0.5 from south");
}

#[test]
fn on_a_folded_panel_it_is_told_from_the_outer_faces_so_that_the_hole_lies_where_it_was_clicked() {
    let folded = piece("2", "3", &["plate 100 x 60", "fold west up 90°, 40"]);
    let p = made(school(Default::default()), &folded);
    let base = p.zones.iter().find(|z| z.is_panel() && z.parent.is_none()).unwrap();
    // On the grid of half a millimetre that its outer faces begin.
    let low = p.outside[0].unwrap();
    let at = [low[0] + 40.0, low[1] + 20.0];
    let o = clicked(&p, Target::Panel, &base.name, at);
    let line = say(&o, "Punch a round hole");
    assert_eq!(line["place"]["x"]["edge"], "outside");
    let mut with = folded.clone();
    with.lines.push(crate::common::line("punch-1", line));
    let made = made(school(Default::default()), &with);
    let c = made.flat.holes[0].contour.bounds().centre();
    assert!((c.x - at[0]).abs() < 1e-6 && (c.y - at[1]).abs() < 1e-6, "{c} {at:?}");
}

#[test]
fn an_edge_is_meant_where_it_was_clicked_a_leg_by_its_letter() {
    let strip = din("2", "3", &["strip 30 wide: 40, up 90°, 60"]);
    let b = strip.zones.iter().find(|z| z.name == "start-1.b").unwrap();
    let at = [(b.min.x + b.max.x) / 2.0, b.max.y];
    let o = clicked(&strip, Target::Edge, "start-1.north", at);
    let fold = say(&o, "Fold leg b north up");
    assert_eq!(fold["edges"], serde_json::json!(["start-1.b.north"]));
    // Where nothing is bent the edge is the plate's.
    let plate = din("2", "", &["plate 100 x 60"]);
    let o = clicked(&plate, Target::Edge, "start-1.north", [50.0, 60.0]);
    assert_eq!(say(&o, "Fold north up")["edges"], serde_json::json!(["start-1.north"]));
    assert!(o.lines.iter().all(|l| !l.stem.is_empty()));
}

#[test]
fn what_is_offered_for_a_hole_a_bend_and_a_corner_names_it() {
    let p = din("2", "3", &["plate 100 x 60", "fold west up 90°, 40", "hole ⌀9"]);
    let hole = offers(
        &p,
        &Clicked { what: Target::Hole, name: "punch-1".into(), line: "punch-1".into(), at: [50.0, 30.0] },
    );
    assert!(say(&hole, "Repeat").to_string().contains("\"punch-1\""), "{hole:?}");
    let bend = p.zones.iter().find(|z| z.bend().is_some()).unwrap();
    let o = clicked(&p, Target::Bend, &bend.name, bend.centre().to_array());
    assert_eq!(say(&o, "Cut a slot across bend")["place"]["on"], "flat");
    let corner = &p.corners[0];
    let o = clicked(&p, Target::Corner, &corner.name, corner.at);
    assert!(o.lines[0].say.to_string().contains(&corner.name), "{o:?}");
}
