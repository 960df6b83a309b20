//! Splits the text of a value into numbers, units, names and signs.
//! Mixed fractions (`3 1/4`) and fractions directly before a unit (`1/2in`) are one number, as they are in
//! the shop.

use super::Fault;

#[derive(Clone, Debug, PartialEq)]
pub enum Token {
    Number(f64),
    /// A unit or a name; the parser tells which by where it stands.
    Word(String),
    /// `'`, `"`, `°`, `′`, `″` standing after a number.
    Mark(char),
    /// One of `+ - * / ^ ( ) ,`.
    Sign(char),
}

#[derive(Clone, Debug, PartialEq)]
pub struct Lexeme {
    pub token: Token,
    pub start: usize,
    pub end: usize,
}

pub fn lex(text: &str) -> Result<Vec<Lexeme>, Fault> {
    let chars: Vec<char> = text.chars().collect();
    let mut out: Vec<Lexeme> = Vec::new();
    let mut i = 0;
    while i < chars.len() {
        let c = chars[i];
        let start = i;
        let token = if c.is_whitespace() {
            i += 1;
            continue;
        } else if c.is_ascii_digit() || (c == '.' && next_is_digit(&chars, i + 1)) {
            let (value, end) = number(&chars, i)?;
            i = end;
            Token::Number(value)
        } else if c.is_alphabetic() || c == '_' {
            while i < chars.len() && (chars[i].is_alphanumeric() || chars[i] == '_') {
                i += 1;
            }
            Token::Word(chars[start..i].iter().collect())
        } else {
            i += 1;
            match c {
                '+' | '*' | '/' | '^' | '(' | ')' | ',' | '-' => Token::Sign(c),
                '−' | '–' => Token::Sign('-'),
                '×' | '·' => Token::Sign('*'),
                '÷' => Token::Sign('/'),
                '\'' | '′' => Token::Mark('\''),
                '"' | '″' => Token::Mark('"'),
                '°' => Token::Mark('°'),
                _ => {
                    return Err(Fault::new(
                        format!("'{c}' has no meaning in a value"),
                        "use digits, + - * / ( ), a unit such as mm, in or deg, or the name of a job figure",
                        (start, i),
                    ));
                }
            }
        };
        out.push(Lexeme { token, start, end: i });
    }
    Ok(out)
}

fn next_is_digit(chars: &[char], i: usize) -> bool {
    chars.get(i).is_some_and(|c| c.is_ascii_digit())
}

/// Reads digits with an optional decimal part and exponent; joins a following fraction where it belongs to
/// the number.
fn number(chars: &[char], start: usize) -> Result<(f64, usize), Fault> {
    let (whole, mut i, integer) = decimal(chars, start)?;
    if !integer {
        return Ok((whole, i));
    }
    // "3 1/4": a whole number, spaces, and a proper fraction.
    let mut j = i;
    while chars.get(j) == Some(&' ') {
        j += 1;
    }
    if j > i
        && let Some((top, bottom, end)) = fraction(chars, j)?
        && top < bottom
    {
        return Ok((whole + top / bottom, end));
    }
    // "1/2in", "3/8\"": a fraction that carries a unit is one number, not a division by inches.
    if let Some((top, bottom, end)) = fraction(chars, start)? {
        let mut k = end;
        while chars.get(k) == Some(&' ') {
            k += 1;
        }
        let unit: String = chars[k..].iter().take_while(|c| c.is_alphabetic()).collect();
        let marked = matches!(chars.get(k), Some('"' | '″' | '\'' | '′'));
        if marked || super::eval::length_unit(&unit).is_some() {
            return Ok((top / bottom, end));
        }
    }
    if chars.get(i) == Some(&'.') && chars.get(i + 1).is_none_or(|c| !c.is_ascii_digit()) {
        i += 1;
    }
    Ok((whole, i))
}

fn decimal(chars: &[char], start: usize) -> Result<(f64, usize, bool), Fault> {
    let mut i = start;
    let mut integer = true;
    while next_is_digit(chars, i) {
        i += 1;
    }
    if chars.get(i) == Some(&'.') && next_is_digit(chars, i + 1) {
        integer = false;
        i += 1;
        while next_is_digit(chars, i) {
            i += 1;
        }
    }
    if matches!(chars.get(i), Some('e' | 'E')) {
        let sign = usize::from(matches!(chars.get(i + 1), Some('+' | '-')));
        if next_is_digit(chars, i + 1 + sign) {
            integer = false;
            i += 1 + sign;
            while next_is_digit(chars, i) {
                i += 1;
            }
        }
    }
    let text: String = chars[start..i].iter().collect();
    match text.parse::<f64>() {
        Ok(v) if v.is_finite() => Ok((v, i, integer)),
        _ => Err(Fault::new(format!("{text} is too large a number"), "write a smaller number", (start, i))),
    }
}

/// `digits/digits`, both whole, the lower not zero.
fn fraction(chars: &[char], start: usize) -> Result<Option<(f64, f64, usize)>, Fault> {
    if !next_is_digit(chars, start) {
        return Ok(None);
    }
    let (top, i, whole_top) = decimal(chars, start)?;
    if !whole_top || chars.get(i) != Some(&'/') || !next_is_digit(chars, i + 1) {
        return Ok(None);
    }
    let (bottom, end, whole_bottom) = decimal(chars, i + 1)?;
    if !whole_bottom {
        return Ok(None);
    }
    if bottom == 0.0 {
        return Err(Fault::new(
            "the fraction divides by zero",
            "write a lower number above zero",
            (start, end),
        ));
    }
    Ok(Some((top, bottom, end)))
}
