//! A new name for a figure or a line, with all its uses.

use ground::lines::wrong_name;
use ground::quantity::Fault;
use serde_json::Value;

use super::{Job, is_same_mark, texts};

/// What is given a new name.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Renamed<'a> {
    Figure,
    /// A line of the piece or frame with this id.
    Line {
        of: &'a str,
    },
}

/// The job with the new name in every use of the old; the thing itself is named as well. Refused where the
/// name is no name of a line, or another's.
pub fn rename(job: &Job, what: Renamed, from: &str, to: &str) -> Result<Job, Fault> {
    let unwritten =
        || Fault::new("the job cannot be written with this name", "choose another name", (0, to.len()));
    let mut doc = serde_json::to_value(job).map_err(|_| unwritten())?;
    match what {
        Renamed::Figure => {
            for f in doc.get_mut("figures").and_then(Value::as_array_mut).into_iter().flatten() {
                if f["name"] == from {
                    f["name"] = to.into();
                }
            }
            let mut uses = Vec::new();
            texts(&doc, "", &mut |at, _, text, is_value| {
                if is_value && used(text, from, to).is_some() {
                    uses.push(at.to_string());
                }
            });
            let words = fixed(&doc, &uses, from);
            uses.retain(|at| !words.contains(at));
            put(&mut doc, &uses, from, to);
        }
        Renamed::Line { of } => {
            let lists = ["pieces", "frames"];
            let mut mark = String::new();
            for list in lists {
                let Some(items) = doc.get_mut(list).and_then(Value::as_array_mut) else { continue };
                for item in items.iter_mut().filter(|i| i["id"] == of) {
                    let taken = || item["lines"].as_array().is_some_and(|l| l.iter().any(|l| l["id"] == to));
                    if let Some(fault) = wrong_name(to, taken) {
                        return Err(fault);
                    }
                    mentioned(item, from, to);
                    mark = item["mark"].as_str().unwrap_or_default().to_string();
                }
            }
            // The ties of its drawings go with it.
            let briefs = doc.get_mut("briefs").and_then(Value::as_array_mut).into_iter().flatten();
            let is_of = |b: &Value| is_same_mark(&mark, b["of"].as_str().unwrap_or_default());
            for brief in briefs.filter(|b| is_of(b)) {
                for line in brief["lines"].as_array_mut().into_iter().flatten() {
                    mentioned(&mut line["say"], from, to);
                }
            }
        }
    }
    serde_json::from_value(doc).map_err(|_| unwritten())
}

/// One name for another in the texts at these pointers.
fn put(doc: &mut Value, uses: &[String], from: &str, to: &str) {
    for at in uses {
        let Some(Value::String(text)) = doc.pointer_mut(at) else { continue };
        if let Some(next) = used(text, from, to) {
            *text = next;
        }
    }
}

/// No word that a field may hold.
const NO_WORD: &str = "no_word_of_a_sentence";

/// Of these pointers the ones whose field takes certain words only: what reads as the name is one of them.
fn fixed(doc: &Value, uses: &[String], from: &str) -> Vec<String> {
    let mut tried = doc.clone();
    put(&mut tried, uses, from, NO_WORD);
    match uses {
        [] => Vec::new(),
        _ if serde_json::from_value::<Job>(tried).is_ok() => Vec::new(),
        [one] => vec![one.clone()],
        _ => {
            let (a, b) = uses.split_at(uses.len() / 2);
            [fixed(doc, a, from), fixed(doc, b, from)].concat()
        }
    }
}

/// The text with one name for another, where the name stands as a word of its own.
fn used(text: &str, from: &str, to: &str) -> Option<String> {
    let mut out = String::with_capacity(text.len());
    let mut found = false;
    let mut rest = text;
    while let Some(c) = rest.chars().next() {
        let word: usize =
            rest.chars().take_while(|c| c.is_alphanumeric() || *c == '_').map(char::len_utf8).sum();
        let n = if word > 0 { word } else { c.len_utf8() };
        let part = &rest[..n];
        // A name that hangs together with a dot or a dash is an id; with a digit before it, a unit.
        let joined = out.ends_with(['.', '#']) || rest[n..].starts_with(['.', '#']);
        if part == from && !joined {
            out.push_str(to);
            found = true;
        } else {
            out.push_str(part);
        }
        rest = &rest[n..];
    }
    found.then_some(out)
}

/// Ids and the names that begin with one: `punch-1`, `punch-1/east`, `fold-1.tip`, `repeat-1.punch-1#3`.
pub fn mentioned(at: &mut Value, from: &str, to: &str) {
    match at {
        Value::String(text) => {
            let parts: Vec<&str> = text.split_inclusive(['.', '#', '/']).collect();
            let bare = |p: &str| p.trim_end_matches(['.', '#', '/']) == from;
            if parts.iter().any(|p| bare(p)) {
                *text = parts
                    .iter()
                    .map(|p| if bare(p) { p.replacen(from, to, 1) } else { (*p).to_string() })
                    .collect();
            }
        }
        Value::Array(list) => list.iter_mut().for_each(|v| mentioned(v, from, to)),
        Value::Object(map) => {
            map.iter_mut().filter(|(k, _)| *k != "issued").for_each(|(_, v)| mentioned(v, from, to))
        }
        _ => {}
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn job() -> Job {
        serde_json::from_value(serde_json::json!({
            "format": 1, "title": "bolt", "figures": [{ "name": "bolt", "value": "8" }, { "name": "hole",
                "value": "bolt + bolt_play" }, { "name": "bolt_play", "value": "1" }],
            "pieces": [{ "id": "a", "mark": "bolt", "name": "bolt", "quantity": "bolt", "material": "s235",
                "thickness": "2", "lines": [
                { "id": "start-1", "say": { "verb": "start_plate", "width": "10*bolt",
                    "height": "2*(bolt)-bolt" } },
                { "id": "punch-1", "say": { "verb": "punch", "shape": { "kind": "round",
                    "diameter": "bolt" }, "place": { "x": { "from": "west", "distance": "bolt" },
                        "y": { "from": "south", "distance": "9" } } } },
                { "id": "repeat-1", "say": { "verb": "repeat", "of": ["punch-1"], "spacing": { "by": "pitch",
                    "count": "3", "pitch": "9" }, "along": "punch-1.north" } },
                { "id": "mirror-1", "say": { "verb": "mirror", "of": ["repeat-1", "punch-1",
                    "punch-11"] } }] }]
        }))
        .unwrap()
    }

    #[test]
    fn a_figure_takes_its_uses_along_and_nothing_else() {
        let said = serde_json::to_value(rename(&job(), Renamed::Figure, "bolt", "screw").unwrap()).unwrap();
        assert_eq!(said["figures"][0]["name"], "screw");
        assert_eq!(
            (&said["figures"][1]["value"], &said["figures"][2]["name"]),
            (&"screw + bolt_play".into(), &"bolt_play".into())
        );
        let piece = &said["pieces"][0];
        assert_eq!(
            (&piece["mark"], &piece["quantity"], &said["title"]),
            (&"bolt".into(), &"screw".into(), &"bolt".into())
        );
        assert_eq!(
            (&piece["lines"][0]["say"]["width"], &piece["lines"][0]["say"]["height"]),
            (&"10*screw".into(), &"2*(screw)-screw".into())
        );
        assert_eq!(piece["lines"][1]["say"]["shape"]["diameter"], "screw");
        // There and back is the same job.
        assert_eq!(
            rename(
                &rename(&job(), Renamed::Figure, "bolt", "screw").unwrap(),
                Renamed::Figure,
                "screw",
                "bolt"
            )
            .unwrap(),
            job()
        );
    }

    /// Fields that are called as a word elsewhere: a side of a channel, the edge round a base plate's holes.
    #[test]
    fn a_value_is_one_whatever_its_field_is_called() {
        let mut told = serde_json::to_value(job()).unwrap();
        told["pieces"][0]["lines"][0]["say"] =
            serde_json::json!({ "verb": "start_channel", "web": "80", "side": "bolt * 3", "length": "90" });
        let lines = serde_json::json!([
            { "id": "base-1", "say": { "verb": "base", "at": ["bolt"], "edge": "bolt" } },
            { "id": "rim-1", "say": { "verb": "rim", "of": "hopper-1", "width": "bolt",
                "sides": ["bolt"] } }]);
        told["frames"] = serde_json::json!([{ "id": "f", "mark": "F-1", "name": "", "quantity": "1",
            "material": "s235", "section": "SHS 40x40x3", "lines": lines }]);
        let job: Job = serde_json::from_value(told).unwrap();
        let said = serde_json::to_value(rename(&job, Renamed::Figure, "bolt", "screw").unwrap()).unwrap();
        assert_eq!(said["pieces"][0]["lines"][0]["say"]["side"], "screw * 3");
        let [base, rim] = [0, 1].map(|k| &said["frames"][0]["lines"][k]["say"]);
        assert_eq!((&base["edge"], &rim["width"]), (&"screw".into(), &"screw".into()));
        assert_eq!(rim["sides"], serde_json::json!(["bolt"]), "a side is no figure");
    }

    #[test]
    fn a_line_takes_its_mentions_along_and_no_longer_name() {
        let said = serde_json::to_value(rename(&job(), Renamed::Line { of: "a" }, "punch-1", "eye").unwrap())
            .unwrap();
        let lines = &said["pieces"][0]["lines"];
        assert_eq!(lines[1]["id"], "eye");
        assert_eq!(
            (&lines[2]["say"]["of"][0], &lines[2]["say"]["along"]),
            (&"eye".into(), &"eye.north".into())
        );
        assert_eq!(lines[3]["say"]["of"], serde_json::json!(["repeat-1", "eye", "punch-11"]));
        assert_eq!(rename(&job(), Renamed::Line { of: "b" }, "punch-1", "eye").unwrap(), job());
    }

    #[test]
    fn the_ties_of_its_drawings_go_with_a_line_and_no_letter_or_figure_does() {
        let brief = |of: &str| {
            serde_json::json!({ "id": "b", "mark": "D-1", "name": "", "of": of, "lines": [
                { "id": "punch-1", "say": { "verb": "hole", "label": "bolt", "value": "bolt",
                    "is": ["punch-1"] } },
                { "id": "span-1", "say": { "verb": "distance", "between": "gap", "from": "bolt",
                    "to": "repeat-1.punch-1#2", "value": "9" } }] })
        };
        let with = |of: &str| {
            let mut told = serde_json::to_value(job()).unwrap();
            told["briefs"] = serde_json::json!([brief(of)]);
            serde_json::from_value::<Job>(told).unwrap()
        };
        let said = |job: &Job, what, from, to| {
            serde_json::to_value(rename(job, what, from, to).unwrap()).unwrap()["briefs"][0]["lines"].clone()
        };
        let lines = said(&with("Bolt"), Renamed::Line { of: "a" }, "punch-1", "eye");
        assert_eq!((&lines[0]["id"], &lines[0]["say"]["is"][0]), (&"punch-1".into(), &"eye".into()));
        assert_eq!(lines[1]["say"]["to"], "repeat-1.eye#2");
        // A brief of another piece speaks of its own.
        let lines = said(&with("other"), Renamed::Line { of: "a" }, "punch-1", "eye");
        assert_eq!(lines[0]["say"]["is"][0], "punch-1");
        // A figure that is called as a letter of the drawing renames values only.
        let lines = said(&with("bolt"), Renamed::Figure, "bolt", "screw");
        assert_eq!(
            (&lines[0]["say"]["label"], &lines[0]["say"]["value"], &lines[1]["say"]["from"]),
            (&"bolt".into(), &"screw".into(), &"bolt".into())
        );
    }
}
