//! Short text for a recipe line, as typed at the bench: `hole 9 at 15 from west, 20 from south`.

mod examples;
mod folds;
mod words;

use crate::job::{
    Axis, Bend, Direction, EdgeOf, Element, From, Leg, Measure, Mirror, Offset, Place, Punch, Repeat, Round, Say, Shape, SlotMeasure, Spacing, StartPlate,
    StartStrip, To, Treatment,
};
use crate::quantity::Fault;
pub(crate) use examples::Examples;
pub(crate) use words::Words;

const EXAMPLES: Examples = Examples(&[
    "plate 260 x 140",
    "strip 40 up 90 60 wide 50",
    "hole 9 at 15 from west, 20 from south",
    "slot 20 x 9",
    "rectangle 30 x 10",
    "square 12",
    "triangle 20 x 10",
    "polygon 6 x 17",
    "tray 300 200 60 lip 15 in",
    "channel 600 web 120 side 60 lip 15",
    "shell 400 diameter 300 angle 360",
    "cone 400 to 200 high 300",
    "fold north up 90 40 inside",
    "corners edge gap 0.5 relief round",
    "bend 40 from east up 90",
    "hem north closed 12",
    "joggle north up 6 over 20 then 25",
    "tab north 30 x 12",
    "notch north vee 20 x 8",
    "keyhole 14 7 16",
    "fill square 6 pitch 12 margin 20",
    "rib fold-1.north.bend depth 15 wide 8 at 30 from west",
    "louvre 60 x 12 high 5",
    "round 5",
    "chamfer 5",
    "repeat punch-1 5 at 30 east",
    "mirror punch-1 east",
]);

/// One line of short text → what it says. `known` are the ids of cuts that `repeat` and `mirror` may name.
pub fn read_short(text: &str, known: &[String]) -> Result<Say, Fault> {
    if text.chars().count() > 400 {
        return Err(Fault::new("the line is longer than 400 characters", "split it", (400, text.chars().count())));
    }
    let mut w = Words::new(text);
    let Some(verb) = w.next() else {
        return Err(Fault::new("the line is empty", EXAMPLES.nearest(""), (0, 0)));
    };
    let verb = verb.to_lowercase();
    let verb = if matches!(verb.as_str(), "start" | "punch" | "cut") { w.next().unwrap_or_default().to_lowercase() } else { verb };
    w.example = EXAMPLES.of(&verb).unwrap_or_default();
    let say = match verb.as_str() {
        "plate" => Say::StartPlate(StartPlate { width: w.value("the width")?, height: w.value("the height")? }),
        "strip" => strip(&mut w)?,
        "hole" => cut(&mut w, |w| Ok(Shape::Round { diameter: w.value("the diameter")? }))?,
        "square" => cut(&mut w, |w| Ok(Shape::Square { side: w.value("the side")?, corner: corner(w)? }))?,
        "rectangle" => cut(&mut w, |w| Ok(Shape::Rectangle { width: w.value("the width")?, height: w.value("the height")?, corner: corner(w)? }))?,
        "slot" => cut(&mut w, |w| {
            let (length, width) = (w.value("the length")?, w.value("the width")?);
            let measure = if w.take("centres") { SlotMeasure::Centres } else { SlotMeasure::Overall };
            Ok(Shape::Slot { length, width, measure })
        })?,
        "triangle" => cut(&mut w, |w| Ok(Shape::Triangle { base: w.value("the base")?, height: w.value("the height")? }))?,
        "polygon" => cut(&mut w, |w| Ok(Shape::Polygon { sides: w.value("the number of sides")?, across: w.value("the size across flats")? }))?,
        "round" | "chamfer" => {
            let treatment = if verb == "chamfer" { Treatment::Chamfer } else { Treatment::Radius };
            let size = w.value("the size")?;
            let corners = std::iter::from_fn(|| w.next()).filter(|c| c != "all").collect();
            Say::Round(Round { treatment, size, corners })
        }
        "repeat" => repeat(&mut w, known)?,
        "mirror" => {
            let of = names(&mut w, known)?;
            let axis = axis(&mut w).unwrap_or_default();
            Say::Mirror(Mirror { of, axis, about: "flat".into() })
        }
        other => match folds::read(other, &mut w, known) {
            Some(say) => say?,
            None => return Err(Fault::new(format!("no line starts with '{verb}'"), EXAMPLES.nearest(&verb), w.list[0].at)),
        },
    };
    match w.peek() {
        None => Ok(say),
        Some(rest) => Err(w.fault(format!("'{rest}' is not understood here"), w.such_as())),
    }
}

fn axis(w: &mut Words) -> Option<Axis> {
    let found = match w.peek()? {
        "east" | "west" => Axis::East,
        "north" | "south" => Axis::North,
        _ => return None,
    };
    w.at += 1;
    Some(found)
}

fn strip(w: &mut Words) -> Result<Say, Fault> {
    let mut out = StartStrip::default();
    let (mut legs, mut bends) = (0u8, 0u8);
    while let Some(word) = w.peek() {
        match word {
            "wide" => {
                w.at += 1;
                out.width = w.value("the width")?;
            }
            "outside" | "inside" | "middle" => {
                out.measure = match word {
                    "inside" => Measure::Inside,
                    "middle" => Measure::Middle,
                    _ => Measure::Outside,
                };
                w.at += 1;
            }
            "up" | "down" => {
                let direction = if word == "up" { Direction::Up } else { Direction::Down };
                w.at += 1;
                bends = bends.saturating_add(1);
                let angle = w.value("the bend's angle")?;
                let radius = match w.peek().and_then(|r| r.strip_prefix(['r', 'R'])).filter(|r| r.starts_with(|c: char| c.is_ascii_digit())) {
                    Some(r) => {
                        let r = r.to_string();
                        w.at += 1;
                        r
                    }
                    None => String::new(),
                };
                out.profile.push(Element::Bend(Bend { id: format!("{bends}"), angle, direction, radius, bend_rule: None }));
            }
            _ => {
                let id = char::from(b'a' + (legs % 26));
                let id = if legs < 26 { id.to_string() } else { format!("{id}{}", legs / 26) };
                legs = legs.saturating_add(1);
                out.profile.push(Element::Leg(Leg { id, length: w.value("a leg")? }));
            }
        }
    }
    if out.width.is_empty() {
        return Err(w.fault("the strip has no width", "add: wide 50"));
    }
    Ok(Say::StartStrip(out))
}

/// `corner 3` behind a square or a rectangle.
fn corner(w: &mut Words) -> Result<String, Fault> {
    if w.take("corner") || w.take("corners") { w.value("the radius of its corners") } else { Ok(String::new()) }
}

fn cut(w: &mut Words, shape: impl FnOnce(&mut Words) -> Result<Shape, Fault>) -> Result<Say, Fault> {
    let shape = shape(w)?;
    let mut place = Place { on: "flat".into(), ..Place::default() };
    w.take("at");
    while let Some(word) = w.peek() {
        match word {
            "on" => {
                w.at += 1;
                place.on = w.value("the panel")?;
            }
            "turned" => {
                w.at += 1;
                place.turn = w.value("the angle")?;
            }
            "centre" => w.at += 1,
            _ => offset(w, &mut place)?,
        }
    }
    Ok(Say::Punch(Punch { shape, place }))
}

/// `15 from west`, `15 clear of west` (to the shape's side).
fn offset(w: &mut Words, place: &mut Place) -> Result<(), Fault> {
    let distance = w.value("a distance")?;
    let to = if w.take("clear") {
        w.take("of");
        To::Side
    } else {
        w.take("from");
        To::Centre
    };
    let outer = w.take("outer") || w.take("outside");
    let named = w.peek().unwrap_or_default().to_lowercase();
    let edge =
        if outer && ["west", "east", "south", "north", "left", "right", "fold", "tip"].contains(&named.as_str()) { EdgeOf::Outside } else { EdgeOf::Panel };
    // `from outside` alone is the outside of the panel's own bend.
    if outer && edge == EdgeOf::Panel {
        w.at -= 1;
    }
    let named = w.peek().unwrap_or_default().to_lowercase();
    let (from, is_x) = match named.as_str() {
        "left" => (From::Left, true),
        "right" => (From::Right, true),
        "fold" => (From::Fold, false),
        "outside" => (From::Outside, false),
        "tip" => (From::Tip, false),
        "west" => (From::West, true),
        "east" => (From::East, true),
        "south" => (From::South, false),
        "north" => (From::North, false),
        _ => {
            return Err(w.fault("an edge is missing", "name west, east, south or north (left, right, fold, outside, tip of a folded panel) after the distance"));
        }
    };
    w.at += 1;
    *(if is_x { &mut place.x } else { &mut place.y }) = Offset { from, distance, to, edge };
    Ok(())
}

fn names(w: &mut Words, known: &[String]) -> Result<Vec<String>, Fault> {
    let mut of = Vec::new();
    while let Some(name) = w.peek().filter(|n| known.iter().any(|k| k == n)) {
        of.push(name.to_string());
        w.at += 1;
    }
    if of.is_empty() {
        // Without a name the last cut is meant.
        match known.last() {
            Some(last) => of.push(last.clone()),
            None => return Err(w.fault("there is no cut yet", "punch something first")),
        }
    }
    Ok(of)
}

fn repeat(w: &mut Words, known: &[String]) -> Result<Say, Fault> {
    let of = names(w, known)?;
    let spacing = if w.take("fill") {
        w.take("at");
        let pitch = w.value("the pitch")?;
        w.take("margin");
        Spacing::Fill { pitch, margin: w.value("the margin")? }
    } else {
        let count = w.value("the count")?;
        if w.take("last") {
            Spacing::Last { count, distance: w.value("the last one's distance")? }
        } else {
            w.take("times");
            w.take("at");
            Spacing::Pitch { count, pitch: w.value("the pitch")? }
        }
    };
    let axis = axis(w).unwrap_or_default();
    Ok(Say::Repeat(Repeat { of, axis, spacing, ..Repeat::default() }))
}
