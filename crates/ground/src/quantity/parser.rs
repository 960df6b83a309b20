//! Text → expression tree. Precedence climbing; depth and length are bounded, so that no text can exhaust the
//! stack.

use super::Fault;
use super::eval::{angle_unit, length_unit};
use super::lexer::{Lexeme, Token, lex};

/// The longest text a value may have.
pub const MAX_TEXT: usize = 400;
const MAX_DEPTH: usize = 48;

/// An expression and the characters it came from.
#[derive(Clone, Debug, PartialEq)]
pub struct Expr {
    pub node: Node,
    pub span: (usize, usize),
}

#[derive(Clone, Debug, PartialEq)]
pub enum Node {
    Bare(f64),
    /// Millimetres.
    Length(f64),
    /// Radians.
    Angle(f64),
    Name(String),
    Neg(Box<Expr>),
    Op(char, Box<Expr>, Box<Expr>),
    Call(String, Vec<Expr>),
}

impl Expr {
    /// The names that stand in it.
    pub fn names<'a>(&'a self, out: &mut Vec<&'a str>) {
        match &self.node {
            Node::Name(name) if !out.contains(&name.as_str()) => out.push(name),
            Node::Neg(a) => a.names(out),
            Node::Op(_, a, b) => [a, b].into_iter().for_each(|e| e.names(out)),
            Node::Call(_, all) => all.iter().for_each(|e| e.names(out)),
            _ => {}
        }
    }
}

pub fn parse(text: &str) -> Result<Expr, Fault> {
    let count = text.chars().count();
    if count > MAX_TEXT {
        return Err(Fault::new(
            format!("the value is {count} characters long; {MAX_TEXT} is the most"),
            "make job figures of its parts",
            (MAX_TEXT, count),
        ));
    }
    let mut p = Parser { items: lex(text)?, at: 0, end: count, depth: 0 };
    if p.items.is_empty() {
        return Err(Fault::new(
            "the value is empty",
            "write a number, for example 40 or 1 1/2in",
            (0, count),
        ));
    }
    let expr = p.sum()?;
    match p.peek() {
        None => Ok(expr),
        Some(l) => Err(p.left_over(l, text)),
    }
}

/// How many bytes at the start of a text are one value, as long as it goes on: `15 from west` begins with
/// `15`, `2*t + 1, 4` with `2*t + 1`. A raised `×` parts counts from sizes in a line and ends the value. None
/// where no value stands there.
pub fn scan(text: &str) -> Option<usize> {
    if let Some(plain) = plain_number(text) {
        return Some(plain);
    }
    // No value is longer than this: the rest of a long line is not looked at.
    let text = &text[..byte(text, MAX_TEXT)];
    let text = text.split('×').next().unwrap_or_default();
    // `5 -3` are two values, `5 - 3` and `5-3` one.
    let apart = text.match_indices(" -").find(|(i, _)| {
        let next = text[i + 2..].chars().next();
        !text[..*i].trim_end().is_empty()
            && next.is_some_and(|c| !c.is_whitespace())
            && !ends_open(&text[..*i])
    });
    let text = apart.map_or(text, |(i, _)| &text[..i]);
    // Characters that no value has end it.
    let items = match lex(text) {
        Ok(items) => items,
        Err(f) => lex(&text[..byte(text, f.start)]).ok()?,
    };
    let mut p = Parser { items, at: 0, end: text.chars().count(), depth: 0 };
    if p.items.is_empty() || p.sum().is_err() {
        return None;
    }
    Some(byte(text, p.items[p.at - 1].end))
}

/// A value that ends here goes on behind a minus: after a sign or in brackets.
fn ends_open(text: &str) -> bool {
    let depth = text.chars().fold(0, |d, c| d + i32::from(c == '(') - i32::from(c == ')'));
    depth > 0 || text.trim_end().ends_with(['+', '-', '*', '/', '^', '(', ','])
}

/// `15` or `0.5` with a comma, the end, or a word behind it that is no unit: by far the most of what is
/// written.
fn plain_number(text: &str) -> Option<usize> {
    let digits = |s: &str| s.bytes().take_while(u8::is_ascii_digit).count();
    let mut n = digits(text);
    if n == 0 {
        return None;
    }
    if text[n..].starts_with('.') {
        let more = digits(&text[n + 1..]);
        if more == 0 {
            return None;
        }
        n += 1 + more;
    }
    let rest = text[n..].trim_start_matches(' ');
    let word: &str = rest.split(|c: char| !c.is_alphabetic()).next().unwrap_or_default();
    let ends = match rest.chars().next() {
        None | Some(',' | ';' | ':' | ')') => true,
        Some(c) if c.is_alphabetic() => {
            rest.len() < text.len() - n && length_unit(word).is_none() && angle_unit(word).is_none()
        }
        _ => false,
    };
    ends.then_some(n)
}

fn byte(text: &str, chars: usize) -> usize {
    text.char_indices().nth(chars).map_or(text.len(), |(b, _)| b)
}

/// The units that values are written in.
const UNITS: &str = "mm, cm, m, in, ft, ' and \" for lengths; °, deg, rad for angles";

struct Parser {
    items: Vec<Lexeme>,
    at: usize,
    end: usize,
    depth: usize,
}

impl Parser {
    fn peek(&self) -> Option<&Lexeme> {
        self.items.get(self.at)
    }

    /// What stands behind a value that is whole: a unit that nobody knows, a decimal comma, a sign too few.
    fn left_over(&self, l: &Lexeme, text: &str) -> Fault {
        let written: String = text.chars().skip(l.start).take(l.end - l.start).collect();
        let before = self.at.checked_sub(1).and_then(|i| self.items.get(i));
        let next = self.items.get(self.at + 1);
        match (&l.token, before.map(|b| &b.token)) {
            (Token::Word(word), Some(Token::Number(_))) => Fault::new(
                format!("'{word}' is not a unit that is known here"),
                format!("the units are {UNITS}; before a figure's name put a + - * /"),
                (l.start, l.end),
            ),
            (Token::Sign(','), Some(Token::Number(_)))
                if next.is_some_and(|n| matches!(n.token, Token::Number(_)) && n.start == l.end) =>
            {
                let digits = |x: Option<&Lexeme>| {
                    x.map_or(String::new(), |x| text.chars().skip(x.start).take(x.end - x.start).collect())
                };
                let decimal = format!("{}.{}", digits(before), digits(next));
                let from = before.map_or(l.start, |b| b.start);
                Fault::new(
                    format!("is this {decimal}?"),
                    format!("write {decimal}: decimals take a point here"),
                    (from, next.map_or(l.end, |n| n.end)),
                )
            }
            _ => Fault::new(
                format!("'{written}' does not belong here"),
                "put a + - * / before it, or take it out",
                (l.start, l.end),
            ),
        }
    }

    /// `"`, or two single marks set together.
    fn inch_mark(&mut self) -> bool {
        if self.mark('"') {
            return true;
        }
        let two = [self.at, self.at + 1]
            .map(|i| self.items.get(i).filter(|l| matches!(l.token, Token::Mark('\''))));
        let hit = matches!(two, [Some(a), Some(b)] if a.end == b.start);
        self.at += if hit { 2 } else { 0 };
        hit
    }

    fn sign(&mut self, wanted: &[char]) -> Option<char> {
        match self.peek() {
            Some(Lexeme { token: Token::Sign(c), .. }) if wanted.contains(c) => {
                let c = *c;
                self.at += 1;
                Some(c)
            }
            _ => None,
        }
    }

    fn mark(&mut self, wanted: char) -> bool {
        let hit = matches!(self.peek(), Some(Lexeme { token: Token::Mark(c), .. }) if *c == wanted);
        self.at += usize::from(hit);
        hit
    }

    fn nested<T>(&mut self, f: impl FnOnce(&mut Self) -> Result<T, Fault>) -> Result<T, Fault> {
        self.depth += 1;
        if self.depth > MAX_DEPTH {
            let at = self.peek().map_or(self.end, |l| l.start);
            return Err(Fault::new(
                "too many brackets or signs inside one another",
                "make job figures of its parts",
                (at, self.end),
            ));
        }
        let out = f(self);
        self.depth -= 1;
        out
    }

    fn sum(&mut self) -> Result<Expr, Fault> {
        let mut left = self.product()?;
        loop {
            let before = self.at;
            let Some(op) = self.sign(&['+', '-']) else { return Ok(left) };
            self.hyphenated(before)?;
            left = join(op, left, self.product()?);
        }
    }

    /// `10-1/4"` without a blank: ten inches and a quarter, as drawings write it, or ten less a quarter inch?
    /// Asked, not guessed.
    fn hyphenated(&self, sign: usize) -> Result<(), Fault> {
        let [Some(whole), Some(dash), Some(part)] =
            [sign.checked_sub(1), Some(sign), Some(sign + 1)].map(|i| i.and_then(|i| self.items.get(i)))
        else {
            return Ok(());
        };
        let (Token::Number(w), Token::Sign('-'), Token::Number(p)) = (&whole.token, &dash.token, &part.token)
        else {
            return Ok(());
        };
        let unit = match self.items.get(sign + 2).map(|l| &l.token) {
            Some(Token::Mark('"')) => "\"",
            Some(Token::Word(u)) if length_unit(u) == Some(25.4) => "in",
            _ => return Ok(()),
        };
        // Alone, not behind feet, and a proper fraction of the kind that rules have.
        let bare = sign < 2 || !matches!(self.items[sign - 2].token, Token::Mark('\''));
        if !bare
            || w.fract() != 0.0
            || !(*p > 0.0 && *p < 1.0)
            || (p * 64.0).fract() != 0.0
            || whole.end != dash.start
            || dash.end != part.start
        {
            return Ok(());
        }
        let mend = format!(
            "write {w} {}{unit} for the sum, or {w} - {}{unit} with blanks for the difference",
            fraction(*p),
            fraction(*p)
        );
        Err(Fault::new(
            format!("is this {w} and {} inches, or {w} less {} of an inch?", fraction(*p), fraction(*p)),
            mend,
            (whole.start, part.end),
        ))
    }

    fn product(&mut self) -> Result<Expr, Fault> {
        let mut left = self.signed()?;
        while let Some(op) = self.sign(&['*', '/']) {
            left = join(op, left, self.signed()?);
        }
        Ok(left)
    }

    fn signed(&mut self) -> Result<Expr, Fault> {
        let start = self.peek().map_or(self.end, |l| l.start);
        if self.sign(&['-']).is_some() {
            let inner = self.nested(Self::signed)?;
            let end = inner.span.1;
            return Ok(Expr { node: Node::Neg(Box::new(inner)), span: (start, end) });
        }
        if self.sign(&['+']).is_some() {
            return self.nested(Self::signed);
        }
        let base = self.atom()?;
        if self.sign(&['^']).is_some() {
            let power = self.nested(Self::signed)?;
            return Ok(join('^', base, power));
        }
        Ok(base)
    }

    fn atom(&mut self) -> Result<Expr, Fault> {
        let Some(lexeme) = self.peek().cloned() else {
            return Err(Fault::new(
                "a value is missing at the end",
                "write a number or a name after the sign",
                (self.end.saturating_sub(1), self.end),
            ));
        };
        self.at += 1;
        match lexeme.token {
            Token::Number(v) => Ok(self.with_unit(v, lexeme.start, lexeme.end)),
            Token::Word(word) => self.word(word, lexeme.start, lexeme.end),
            Token::Sign('(') => {
                let mut inner = self.nested(Self::sum)?;
                let end = self.close()?;
                inner.span = (lexeme.start, end);
                Ok(inner)
            }
            Token::Sign(_) | Token::Mark(_) => Err(Fault::new(
                "a number is missing here",
                "write a number before it",
                (lexeme.start, lexeme.end),
            )),
        }
    }

    fn close(&mut self) -> Result<usize, Fault> {
        let end = self.peek().map_or(self.end, |l| l.end);
        match self.sign(&[')']) {
            Some(_) => Ok(end),
            None => {
                Err(Fault::new("a bracket is not closed", "add the missing )", (end.saturating_sub(1), end)))
            }
        }
    }

    /// A number with the unit behind it: `40mm`, `1 1/2in`, `5'-3 1/4"`, `12°30'`, or bare.
    fn with_unit(&mut self, v: f64, start: usize, end: usize) -> Expr {
        if self.inch_mark() {
            return self.made(Node::Length(v * 25.4), start);
        }
        if self.mark('\'') {
            let feet = v * 304.8;
            let save = self.at;
            self.sign(&['-']);
            if let Some(inches) = self.plain_number()
                && self.inch_mark()
            {
                return self.made(Node::Length(feet + inches * 25.4), start);
            }
            self.at = save;
            return self.made(Node::Length(feet), start);
        }
        if self.mark('°') {
            let save = self.at;
            if let Some(minutes) = self.plain_number()
                && self.mark('\'')
            {
                let seconds_at = self.at;
                let seconds = match self.plain_number() {
                    Some(s) if self.mark('"') => s,
                    _ => {
                        self.at = seconds_at;
                        0.0
                    }
                };
                return self.made(Node::Angle((v + minutes / 60.0 + seconds / 3600.0).to_radians()), start);
            }
            self.at = save;
            return self.made(Node::Angle(v.to_radians()), start);
        }
        if let Some(Lexeme { token: Token::Word(word), .. }) = self.peek() {
            if let Some(mm) = length_unit(word) {
                self.at += 1;
                return self.made(Node::Length(v * mm), start);
            }
            if let Some(rad) = angle_unit(word) {
                self.at += 1;
                return self.made(Node::Angle(v * rad), start);
            }
        }
        Expr { node: Node::Bare(v), span: (start, end) }
    }

    fn plain_number(&mut self) -> Option<f64> {
        match self.peek() {
            Some(Lexeme { token: Token::Number(v), .. }) => {
                let v = *v;
                self.at += 1;
                Some(v)
            }
            _ => None,
        }
    }

    fn made(&self, node: Node, start: usize) -> Expr {
        Expr { node, span: (start, self.items[self.at - 1].end) }
    }

    fn word(&mut self, word: String, start: usize, end: usize) -> Result<Expr, Fault> {
        if self.sign(&['(']).is_none() {
            return Ok(Expr { node: Node::Name(word), span: (start, end) });
        }
        let mut args = Vec::new();
        if self.sign(&[')']).is_some() {
            return Err(Fault::new(
                format!("{word}( ) has no value in its brackets"),
                "write a value between the brackets",
                (start, self.end),
            ));
        }
        loop {
            args.push(self.nested(Self::sum)?);
            if self.sign(&[',']).is_none() {
                break;
            }
        }
        let close = self.close()?;
        Ok(Expr { node: Node::Call(word, args), span: (start, close) })
    }
}

/// A part of an inch in 64ths or coarser.
fn fraction(v: f64) -> String {
    let mut bottom = 64u32;
    let mut top = (v * 64.0).round() as u32;
    while top > 0 && top.is_multiple_of(2) {
        top /= 2;
        bottom /= 2;
    }
    format!("{top}/{bottom}")
}

fn join(op: char, left: Expr, right: Expr) -> Expr {
    let span = (left.span.0, right.span.1);
    Expr { node: Node::Op(op, Box::new(left), Box::new(right)), span }
}
