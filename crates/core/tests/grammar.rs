//! What is printed is read as the same, for every verb and every option of it: lines are made from the
//! sentences themselves, with values that are hard to tell from words.

use proptest::prelude::*;
use serde_json::{Value, json};
use steelk_core::grammar::{
    Bench, Context, Kind, Part, WordKind, complete, describe, offers, print, print_long, read,
};
use steelk_core::verbs::{BRIEF, FRAME, PIECE};

const VALUES: [&str; 22] = [
    "40",
    "0.5",
    "90",
    "1/4",
    "5 1/2",
    "1 1/2in",
    "5'-3 1/4\"",
    "-5",
    "2*t + 0.5",
    "(a + b)/2",
    "bolt",
    "bolt + 2",
    "wide",
    "up",
    "",
    "12 mmm",
    "9 in",
    "3×4",
    "90°",
    "12°30'",
    "x",
    "360",
];
const NAMES: [&str; 14] = [
    "start-1.north",
    "start-1.b",
    "fold-1.north.tip",
    "flat",
    "north",
    "up",
    "A",
    "mirror-2.mirror-1.R",
    "a b",
    "",
    "repeat-1.punch-1#3",
    "start-1.panel/east",
    "and",
    "lip.west",
];
const WORDS: [&str; 8] =
    ["block", "side", "bed rail", "SHS 60x60x3", "x", "rail", "a \"quoted\" one", "S235, hot"];
const SCREWS: [&str; 9] = ["M8", "M8x1", "#8-32", "1/4-20", "5/16", "M10 × 1.25", "", "M8, fine", "1 1/4-7"];

/// Takes its decisions from bytes.
struct Dice<'a>(std::slice::Iter<'a, u8>);

impl Dice<'_> {
    fn of(&mut self, n: usize) -> usize {
        usize::from(*self.0.next().unwrap_or(&0)) % n.max(1)
    }
}

fn put(at: &mut Value, path: &str, value: Value) {
    let mut here = at;
    for key in path.split('/').skip(1) {
        if !here.is_object() {
            *here = json!({});
        }
        here = here.as_object_mut().unwrap().entry(key).or_insert(Value::Null);
    }
    *here = value;
}

fn text(d: &mut Dice, kind: Kind) -> &'static str {
    match kind {
        k if k.is_value() => VALUES[d.of(VALUES.len())],
        Kind::Section | Kind::Text | Kind::Word | Kind::Material | Kind::Test => WORDS[d.of(WORDS.len())],
        Kind::Screw | Kind::Thread => SCREWS[d.of(SCREWS.len())],
        _ => NAMES[d.of(NAMES.len())],
    }
}

fn make(parts: &'static [Part], at: &mut Value, d: &mut Dice) {
    for part in parts {
        match part {
            Part::Word(_) => {}
            Part::Slot(s) if s.empty.is_some() && d.of(2) == 0 => {}
            Part::Slot(s) => put(at, s.path, text(d, s.kind).into()),
            Part::Names(n) => {
                let count = n.least + d.of(4);
                put(at, n.path, (0..count).map(|_| Value::from(text(d, n.kind))).collect());
            }
            Part::Pick(p) => {
                let value = p.options[d.of(p.options.len())].0;
                if let Some((first, second)) = value.split_once('|') {
                    put(at, p.path, first.into());
                    put(at, p.beside, second.into());
                } else if p.flag {
                    put(at, p.path, (value == "true").into());
                } else if !p.other.is_empty() && d.of(3) == 0 {
                    put(at, p.path, "screw beam".into());
                } else if d.of(4) > 0 || p.usual.is_empty() {
                    put(at, p.path, value.into());
                }
            }
            Part::Union(u) => {
                if u.optional && d.of(2) == 0 {
                    continue;
                }
                let case = &u.cases[d.of(u.cases.len())];
                let mut inner = json!({ u.tag: case.tag });
                make(case.parts, &mut inner, d);
                match (u.path, at.as_object_mut(), inner) {
                    ("", Some(line), Value::Object(own)) => line.extend(own),
                    ("", _, inner) => *at = inner,
                    (path, _, inner) => put(at, path, inner),
                }
            }
            Part::Clause(c) if c.typed_only || d.of(3) == 0 => {}
            Part::Clause(c) => make(c.parts, at, d),
            Part::List(l) => {
                let mut list: Vec<Value> = Vec::new();
                let mut namer = l.ids.namer();
                for _ in 0..l.least + d.of(4) {
                    let mut item = json!({});
                    make(l.item, &mut item, d);
                    if l.ids != steelk_core::grammar::Ids::None {
                        let own = ["web", "a", "2", "lip", "long leg"][d.of(5)];
                        let id = if d.of(3) == 0 { own.to_string() } else { namer.usual(&item) };
                        namer.take(&id);
                        item["id"] = id.into();
                    }
                    list.push(item);
                }
                put(at, l.path, list.into());
            }
            Part::Within(path, inner) => {
                let mut value = json!({});
                make(inner, &mut value, d);
                put(at, path, value);
            }
        }
    }
}

/// A line of a bench, as it is stored.
fn line(bench: &Bench, verb: usize, bytes: &[u8]) -> Option<Value> {
    let verb = bench.verbs[verb % bench.verbs.len()].verb;
    let mut value = json!({ "verb": verb.tag });
    make(verb.sentence, &mut value, &mut Dice(bytes.iter()));
    (bench.normal)(&value)
}

fn context() -> Context {
    let ids = ["start-1", "fold-1", "repeat-1", "mirror-2", "lip"].map(String::from).into_iter().collect();
    Context { start: "start-1".into(), ids, nodes: Default::default(), last_cut: "punch-1".into() }
}

fn holds(bench: &Bench, verb: usize, bytes: &[u8]) -> Result<(), TestCaseError> {
    let Some(say) = line(bench, verb, bytes) else {
        return Err(TestCaseError::fail("the sentence makes no line of its verb"));
    };
    let c = context();
    for printed in [print(bench, &say, &c).unwrap(), print_long(bench, &say, &c).unwrap()] {
        for s in &printed.spans {
            prop_assert!(printed.text.get(s.from..s.to).is_some(), "{}: {s:?}", printed.text);
        }
    }
    let short = print(bench, &say, &c).unwrap().text;
    let again = read(bench, &short, &c)
        .map_err(|f| TestCaseError::fail(format!("{say}\n{short}\n{}: {}", f.message, f.mend)))?;
    let again = (bench.normal)(&again).ok_or_else(|| TestCaseError::fail(short.clone()))?;
    prop_assert_eq!(&again, &say, "{}", short);
    Ok(())
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 3000, failure_persistence: None,
        ..ProptestConfig::default() })]

    #[test]
    fn what_is_printed_of_a_piece_is_read_as_the_same(verb in 0usize..64,
        bytes in prop::collection::vec(any::<u8>(), 0..60)) {
        holds(&PIECE, verb, &bytes)?;
    }

    #[test]
    fn what_is_printed_of_a_frame_is_read_as_the_same(verb in 0usize..64,
        bytes in prop::collection::vec(any::<u8>(), 0..60)) {
        holds(&FRAME, verb, &bytes)?;
    }

    #[test]
    fn what_is_printed_of_a_brief_is_read_as_the_same(verb in 0usize..64,
        bytes in prop::collection::vec(any::<u8>(), 0..60)) {
        holds(&BRIEF, verb, &bytes)?;
    }

    /// Anything typed is read or told where it goes wrong, within the text.
    #[test]
    fn anything_typed_is_read_or_told(verb in 0usize..64, bytes in prop::collection::vec(any::<u8>(), 0..40),
        cut in 0usize..80, noise in "[ -~×⌀°\"é]{0,12}") {
        for bench in [&*PIECE, &*FRAME, &*BRIEF] {
            let Some(say) = line(bench, verb, &bytes) else { continue };
            let mut text: String = print(bench, &say, &context()).unwrap().text.chars().take(cut).collect();
            text.push_str(&noise);
            if let Err(f) = read(bench, &text, &context()) {
                prop_assert!(!f.message.is_empty() && !f.mend.is_empty());
                prop_assert!(f.start <= f.end && f.end <= text.chars().count().max(1), "{text}: {}..{} {}",
                    f.start, f.end, f.message);
            }
            complete(bench, &text, &context());
        }
    }
}

#[test]
fn every_example_is_read_and_every_usual_line_is_one() {
    for bench in [&*PIECE, &*FRAME, &*BRIEF] {
        for r in &bench.verbs {
            let v = r.verb;
            assert!(!v.examples.is_empty(), "{}", v.tag);
            for example in v.examples {
                let read = read(bench, example, &Context::default())
                    .unwrap_or_else(|f| panic!("{example}: {} ({})", f.message, f.mend));
                assert_eq!(read["verb"], v.tag, "{example}");
            }
        }
        for v in describe(bench) {
            for (name, usual) in v.starts.iter().flat_map(|s| [(s.name, &s.mm), (s.name, &s.inch)]) {
                assert_eq!(usual["verb"], v.tag, "{name}");
            }
        }
        for o in offers(bench) {
            let verb = |v: &Value| v["verb"].as_str().unwrap_or_default().to_string();
            assert!(!verb(&o.mm).is_empty() && verb(&o.mm) == verb(&o.inch), "{}", o.words);
            assert_eq!(bench.ready(&verb(&o.mm)).unwrap().verb.stem, o.stem, "{}", o.words);
        }
    }
}

/// Every word that stands behind a value is told apart from a unit, and the examples are printed as they
/// stand.
#[test]
fn examples_are_printed_as_they_are_written() {
    let mut other = Vec::new();
    for bench in [&*PIECE, &*FRAME, &*BRIEF] {
        for example in bench.verbs.iter().flat_map(|r| r.verb.examples) {
            let say = read(bench, example, &Context::default()).unwrap();
            let printed = print(bench, &(bench.normal)(&say).unwrap(), &Context::default()).unwrap().text;
            if printed != *example {
                other.push(format!("{example}\n  {printed}"));
            }
        }
    }
    assert!(other.is_empty(), "{}", other.join("\n"));
}

fn words(parts: &'static [Part], out: &mut Vec<&'static str>) {
    for part in parts {
        match part {
            Part::Word(w) if w.kind != WordKind::Verb => out.extend(w.words.split('|')),
            Part::Clause(c) => words(c.parts, out),
            Part::Within(_, inner) => words(inner, out),
            Part::Union(u) => u.cases.iter().for_each(|c| words(c.parts, out)),
            Part::Pick(p) => out.extend(p.options.iter().flat_map(|o| o.1.split('|'))),
            Part::List(l) => words(l.item, out),
            _ => {}
        }
    }
}

#[test]
fn no_word_of_a_sentence_is_a_unit() {
    for r in PIECE.verbs.iter().chain(&FRAME.verbs) {
        let mut all = Vec::new();
        words(r.verb.sentence, &mut all);
        for w in all.iter().flat_map(|w| w.split(' ').next()) {
            let unit =
                ["mm", "cm", "m", "in", "inch", "inches", "ft", "feet", "deg", "degrees", "rad"].contains(&w);
            // `in the` stands behind a comma.
            assert!(
                !unit
                    || all.iter().any(|x| *x == "in the middle" || *x == "in the" || x.starts_with("in a ")),
                "{}: {w}",
                r.verb.tag
            );
        }
    }
}

/// The first word of a line is offered from the sentences: every call of a bar, every shape, not only those
/// of the examples.
#[test]
fn every_first_word_is_offered() {
    let of = |bench: &Bench, typed: &str| {
        let words = |o: &steelk_core::grammar::Offered| match o {
            steelk_core::grammar::Offered::Words { text, .. } => Some(text.clone()),
            _ => None,
        };
        complete(bench, typed, &Context::default()).1.iter().filter_map(words).collect::<Vec<_>>()
    };
    assert_eq!(of(&FRAME, "bra"), ["brace"]);
    assert_eq!(of(&FRAME, "stri"), ["stringer"]);
    assert_eq!(of(&PIECE, "D"), ["disc", "D-plate", "D-hole", "dimple", "dimension"]);
    for (bench, r) in PIECE.verbs.iter().map(|r| (&*PIECE, r)).chain(FRAME.verbs.iter().map(|r| (&*FRAME, r)))
    {
        for e in r.verb.examples {
            let first = e.split([' ', ',']).next().unwrap();
            assert!(of(bench, first).iter().any(|w| w == first), "{first}");
        }
    }
}

/// A text in quotes behind a value is no inch mark; an inch mark may stand apart.
#[test]
fn a_fraction_of_a_degree_is_no_part_of_the_radius_before_it() {
    let side = json!({ "kind": "arc", "id": "a", "radius": "360", "angle": "1/4" });
    let say = json!({ "verb": "start_contour", "sides": [side] });
    let printed = print(&PIECE, &say, &Context::default()).unwrap().text;
    let back = read(&PIECE, &printed, &Context::default()).unwrap();
    assert_eq!(
        (&back["sides"][0]["radius"], &back["sides"][0]["angle"]),
        (&json!("360"), &json!("1/4")),
        "{printed}"
    );
}

#[test]
fn a_quoted_text_behind_a_value_is_told_from_an_inch_mark() {
    let value = |text: &'static str| steelk_core::grammar::Scan { text, at: 0 }.value();
    assert_eq!(value("360 \"wide\""), Some("360"));
    assert_eq!(value("1 1/2 \" x 3"), Some("1 1/2 \""));
    assert_eq!(value("360\", 40"), Some("360\""));
    let line = "contour arc left R360 \"wide\", line 40";
    let say = read(&PIECE, line, &Context::default()).unwrap();
    assert_eq!(
        (say["sides"][0]["radius"].as_str(), say["sides"][0]["angle"].as_str()),
        (Some("360"), Some("wide"))
    );
}
