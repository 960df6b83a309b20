//! The ways that figures stand on drawings, spelled out as the sentences of a brief: `4 × ⌀9` is
//! `hole ⌀9, 4 off`.

/// The sentence that a line in a drawing's own writing means; none where it is no such writing.
pub fn spelled_out(line: &str) -> Option<String> {
    let text = line.trim();
    if let Some(view) = view(text) {
        return Some(format!("view \"{view}\""));
    }
    let (count, rest) = counted(text).map_or((None, text), |(n, rest)| (Some(n), rest));
    let mut rest = rest.to_string();
    // `hole A from left 15`: a hole is told from a side.
    if let Some((a, b, value)) = told_from(&rest) {
        rest = format!("from {a} to {b} {value}");
    }
    if let Some(hole) = drilled(&rest) {
        rest = hole;
    }
    let lower = rest.to_lowercase();
    let is_sign = |w: &str| !w.starts_with(|c: char| c.is_ascii_alphabetic());
    let begins =
        |w: &str| lower.strip_prefix(w).is_some_and(|r| is_sign(w) || !r.starts_with(char::is_alphanumeric));
    if let Some(bare) = ["holes", "dia", "diameter", "⌀", "ø"].into_iter().find(|w| begins(w)) {
        rest = format!("hole ⌀{}", rest[bare.len()..].trim());
    } else if count.is_some() && lower.starts_with(|c: char| c.is_ascii_digit() || c == '.') {
        // `4 holes 9`, `4 × 9`.
        rest = format!("hole ⌀{rest}");
    } else if rest.starts_with('R') && rest[1..].trim_start().starts_with(|c: char| c.is_ascii_digit()) {
        rest = format!("radius {rest}");
    }
    let mut out = apart(&rest);
    if let Some(n) = count {
        out = with_count(&out, n);
    }
    (out != line).then_some(out)
}

/// What stands over the figures of a view: `front view`, `view front`, `SECTION A-A`, `detail B`, `sheet 2`.
fn view(text: &str) -> Option<String> {
    let text = text.trim_end_matches(':').trim_end();
    let lower = text.to_lowercase();
    let words = lower.split_whitespace().count();
    if !(2..=4).contains(&words) || text.contains(['"', ',']) {
        return None;
    }
    let begins = ["section ", "detail ", "sheet "].iter().any(|w| lower.starts_with(w));
    // Letters as they stand: only ASCII changes its length by being lowered.
    let name = if text.is_ascii() && lower.starts_with("view ") {
        &text[5..]
    } else if text.is_ascii() && lower.ends_with(" view") {
        &text[..text.len() - 5]
    } else if begins {
        text
    } else {
        return None;
    };
    let plain = |c: char| c.is_alphanumeric() || " -/".contains(c);
    name.chars().all(plain).then(|| name.trim().to_lowercase()).map(|n| {
        // Sections and details go by capital letters.
        match n.split_once(' ') {
            Some((word, rest)) if begins && word != "sheet" => format!("{word} {}", rest.to_uppercase()),
            _ => n,
        }
    })
}

/// Drilled holes as drawings write them: `M8 × 14`, `#8-32 depth .2875`, `⌀9 csk ⌀17.92 × 90°`,
/// `⌀11 cbore ⌀18 × 10.6, back`, `⌀8 depth 10`.
fn drilled(text: &str) -> Option<String> {
    let (first, behind) = text.split_once([' ', ',']).unwrap_or((text, ""));
    let is_thread = first.starts_with(['M', 'm', '#']) || first.contains('-');
    if is_thread && shop::threads::thread(first).is_some() {
        let (depth, rest) =
            depth_told(behind).map_or((String::new(), behind), |(d, rest)| (format!(", {d} deep"), rest));
        return Some(format!("tapped hole {first}{depth}{}", from_side(rest)));
    }
    let size = text.strip_prefix(['⌀', 'ø', 'Ø'])?.trim_start();
    let (own, behind) = size.split_once([' ', ','])?;
    let behind = behind.trim_start();
    let lower = behind.to_lowercase();
    for (word, kind) in [
        ("csk", "countersunk"),
        ("countersunk", "countersunk"),
        ("cbore", "counterbored"),
        ("counterbored", "counterbored"),
        ("spot face", "spot-faced"),
    ] {
        let Some(at) = lower.strip_prefix(word).map(|r| behind.len() - r.len()) else { continue };
        let rest = behind[at..].trim_start().trim_start_matches(['⌀', 'ø', 'Ø']).trim_start();
        let (wider, rest) = rest.split_once(' ')?;
        if kind == "countersunk" {
            let rest = rest.trim_start().trim_start_matches(['×', 'x', 'X']).trim_start();
            let rest = rest.strip_prefix("at ").unwrap_or(rest);
            let (angle, rest) = rest.split_once([',', ' ']).unwrap_or((rest, ""));
            return Some(format!("countersunk hole ⌀{own}, head ⌀{wider} at {angle}{}", from_side(rest)));
        }
        let (depth, rest) = depth_told(rest)?;
        return Some(format!("{kind} hole ⌀{own}, ⌀{wider}, {depth} deep{}", from_side(rest)));
    }
    let (depth, rest) = depth_told(behind)?;
    Some(format!("blind hole ⌀{own}, {depth} deep{}", from_side(rest)))
}

/// `depth 14`, `× 14`, `14 deep`, and what stands behind it.
fn depth_told(text: &str) -> Option<(&str, &str)> {
    let text = text.trim_start().trim_start_matches(',').trim_start();
    let lower = text.to_lowercase();
    let ahead = ["depth ", "deep ", "× ", "x ", "↧"].into_iter().find(|w| lower.starts_with(w));
    let value = &text[ahead.map_or(0, str::len)..].trim_start();
    let (depth, rest) = value.split_once([' ', ',']).unwrap_or((value, ""));
    let rest = rest.trim_start();
    let rest = match (ahead, rest.strip_prefix("deep")) {
        (_, Some(rest)) => rest,
        (Some(_), None) => rest,
        (None, None) => return None,
    };
    depth.starts_with(|c: char| c.is_ascii_digit() || c == '.').then_some((depth, rest))
}

/// `, back` as the sentence has it, and all else as it stands.
fn from_side(rest: &str) -> String {
    let rest = rest.trim_start_matches([' ', ',']);
    match rest.strip_prefix("back") {
        _ if rest.is_empty() => String::new(),
        Some(after) => format!(", from the back{after}"),
        None => format!(", {rest}"),
    }
}

/// `4 × …`, `4 x …`, `4 off …`, `4 holes …`.
fn counted(text: &str) -> Option<(&str, &str)> {
    let digits = text.find(|c: char| !c.is_ascii_digit()).filter(|n| *n > 0)?;
    let (n, rest) = text.split_at(digits);
    let rest = rest.trim_start();
    for sign in ["×", "x ", "X ", "off "] {
        if let Some(after) = rest.strip_prefix(sign) {
            return Some((n, after.trim_start()));
        }
    }
    // `x9`: a sign right before a size.
    let tight =
        rest.strip_prefix(['x', 'X']).filter(|r| r.starts_with(|c: char| c.is_ascii_digit() || c == '⌀'));
    tight.or_else(|| rest.starts_with("hole").then_some(rest)).map(|r| (n, r))
}

/// `[hole] A from B …`.
fn told_from(text: &str) -> Option<(&str, &str, &str)> {
    let mut words = text.split_whitespace();
    let first = words.next()?;
    let a = if first.eq_ignore_ascii_case("hole") { words.next()? } else { first };
    if !words.next()?.eq_ignore_ascii_case("from") || a.starts_with(|c: char| !c.is_alphabetic()) {
        return None;
    }
    let b = words.next()?;
    let at = b.as_ptr() as usize - text.as_ptr() as usize + b.len();
    let value = text[at..].trim_start();
    (!value.is_empty()).then_some((a, b, value))
}

/// `+0.5 -0.2` behind a value, in words.
fn apart(text: &str) -> String {
    let Some(plus) =
        text.find(" +").filter(|p| text[p + 2..].starts_with(|c: char| c.is_ascii_digit() || c == '.'))
    else {
        return text.to_string();
    };
    let behind = &text[plus + 2..];
    let Some(minus) = behind.find(['-', '−']) else { return text.to_string() };
    let upper = behind[..minus].trim_end_matches([' ', '/']);
    let lower = behind[minus..].trim_start_matches(['-', '−']);
    // An inch and a fraction is a value, not a tolerance.
    if upper.contains(' ') || lower.trim().is_empty() {
        return text.to_string();
    }
    format!("{} plus {upper} minus {}", &text[..plus], lower.trim_start())
}

/// The count as a clause, before what the figure is tied to.
fn with_count(text: &str, n: &str) -> String {
    match text.find(", is ") {
        Some(at) => format!("{}, {n} off{}", &text[..at], &text[at..]),
        None => format!("{text}, {n} off"),
    }
}

#[cfg(test)]
mod tests {
    use super::spelled_out;

    #[test]
    fn what_stands_on_drawings_is_spelled_out() {
        for (written, meant) in [
            ("FRONT VIEW", "view \"front\""),
            ("view top:", "view \"top\""),
            ("section a-a", "view \"section A-A\""),
            ("Sheet 2", "view \"sheet 2\""),
            ("4 × ⌀9", "hole ⌀9, 4 off"),
            ("4x9", "hole ⌀9, 4 off"),
            ("12 holes 3/8", "hole ⌀3/8, 12 off"),
            ("4 × hole ⌀9, is punch-1", "hole ⌀9, 4 off, is punch-1"),
            ("⌀6.6", "hole ⌀6.6"),
            ("R5", "radius R5"),
            ("hole A from left 0.4375", "from A to left 0.4375"),
            ("B from A 2 1/2", "from B to A 2 1/2"),
            ("overall width 260 +0.5 -0.2", "overall width 260 plus 0.5 minus 0.2"),
            ("overall width 260 +0.5/-0.2", "overall width 260 plus 0.5 minus 0.2"),
            ("4 × #8-32 depth .2875", "tapped hole #8-32, .2875 deep, 4 off"),
            ("4x M8", "tapped hole M8, 4 off"),
            ("M8 × 14, back", "tapped hole M8, 14 deep, from the back"),
            ("1/4-20 .5 deep, is drill-1", "tapped hole 1/4-20, .5 deep, is drill-1"),
            ("2 × ⌀9 csk ⌀17.92 × 90°", "countersunk hole ⌀9, head ⌀17.92 at 90°, 2 off"),
            ("⌀11 cbore ⌀18 × 10.6, back", "counterbored hole ⌀11, ⌀18, 10.6 deep, from the back"),
            ("⌀9 spot face ⌀20 depth 1", "spot-faced hole ⌀9, ⌀20, 1 deep"),
            ("⌀8 × 10, back", "blind hole ⌀8, 10 deep, from the back"),
        ] {
            assert_eq!(spelled_out(written).as_deref(), Some(meant), "{written}");
        }
        for sentence in [
            "overall width 260 ±0.5",
            "from A to west 15",
            "hole A ⌀9, 4 off",
            "mass 1.2 kg",
            "overall width 11in",
            "thickness 3",
            "tapped hole C M8, 14 deep, 4 off",
            "blind hole ⌀8, 10 deep",
        ] {
            assert_eq!(spelled_out(sentence), None, "{sentence}");
        }
    }
}
