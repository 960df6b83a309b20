//! Expression tree → value. A bare number takes the job's length unit when it meets a length, degrees when it
//! meets an angle.

use super::parser::{Expr, Node, parse};
use super::{Fault, LengthUnit, boards};

/// What a value measures: a power of length, or an angle, or neither.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Dim {
    /// A plain number.
    Bare,
    /// mm to this power (1 a length, 2 an area).
    Length(i8),
    Angle,
}

impl Dim {
    fn said(self) -> &'static str {
        match self {
            Dim::Bare => "a plain number",
            Dim::Length(1) => "a length",
            Dim::Length(2) => "an area",
            Dim::Length(_) => "a power of a length",
            Dim::Angle => "an angle",
        }
    }
}

/// A number with what it measures: millimetres, radians or plain.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Value {
    pub v: f64,
    pub dim: Dim,
}

/// Where names get their values.
pub trait Names {
    fn value(&self, name: &str) -> Option<Result<Value, String>>;
    /// The names that could have been meant, for messages.
    fn known(&self) -> Vec<String>;
}

/// What a value is read against: the unit of bare numbers and the names known.
#[derive(Clone, Copy)]
pub struct Scope<'a> {
    pub unit: LengthUnit,
    pub names: &'a dyn Names,
}

/// Millimetres of a length unit.
pub fn length_unit(word: &str) -> Option<f64> {
    Some(match word {
        "mm" => 1.0,
        "cm" => 10.0,
        "m" => 1000.0,
        "in" | "inch" | "inches" => 25.4,
        "ft" | "foot" | "feet" => 304.8,
        _ => return None,
    })
}

/// Radians of an angle unit.
pub fn angle_unit(word: &str) -> Option<f64> {
    Some(match word {
        "deg" | "degree" | "degrees" => std::f64::consts::PI / 180.0,
        "rad" => 1.0,
        _ => return None,
    })
}

const FUNCTIONS: &str = "sin, cos, tan, asin, acos, atan, atan2, sqrt, min, max, round, abs, board, quarters";

impl Scope<'_> {
    /// The value in millimetres; a bare number is in the job's unit.
    pub fn length(&self, text: &str) -> Result<f64, Fault> {
        let expr = parse(text)?;
        let v = self.eval(&expr)?;
        self.as_length(v, &expr)
    }

    /// The value in radians; a bare number is in degrees.
    pub fn angle(&self, text: &str) -> Result<f64, Fault> {
        let expr = parse(text)?;
        let v = self.eval(&expr)?;
        self.as_angle(v, &expr)
    }

    /// A plain number.
    pub fn number(&self, text: &str) -> Result<f64, Fault> {
        let expr = parse(text)?;
        let v = self.eval(&expr)?;
        match v.dim {
            Dim::Bare => Ok(v.v),
            d => Err(Fault::new(
                format!("{} stands where a plain number belongs{}", d.said(), self.blamed(&expr, d)),
                "take the unit out, or divide by a length",
                expr.span,
            )),
        }
    }

    /// A whole number from `low` to `high`.
    pub fn count(&self, text: &str, low: usize, high: usize) -> Result<usize, Fault> {
        let n = self.number(text)?;
        let span = (0, text.chars().count());
        if (n - n.round()).abs() > 1e-9 {
            return Err(Fault::new(
                format!("a count must be whole, this is {n}"),
                format!("write {}", n.round()),
                span,
            ));
        }
        let n = n.round();
        if n < low as f64 || n > high as f64 {
            return Err(Fault::new(
                format!("the count {n} is outside {low} to {high}"),
                format!("write a count from {low} to {high}"),
                span,
            ));
        }
        Ok(n as usize)
    }

    fn as_length(&self, v: Value, expr: &Expr) -> Result<f64, Fault> {
        match v.dim {
            Dim::Length(1) => Ok(v.v),
            Dim::Bare => Ok(v.v * self.unit.mm()),
            d => Err(Fault::new(
                format!("{} stands where a length belongs{}", d.said(), self.blamed(expr, d)),
                "write a length, for example 40, 40mm or 1 1/2in",
                expr.span,
            )),
        }
    }

    fn as_angle(&self, v: Value, expr: &Expr) -> Result<f64, Fault> {
        match v.dim {
            Dim::Angle => Ok(v.v),
            Dim::Bare => Ok(v.v.to_radians()),
            d => Err(Fault::new(
                format!("{} stands where an angle belongs{}", d.said(), self.blamed(expr, d)),
                "write an angle, for example 90, 90° or 1.2rad",
                expr.span,
            )),
        }
    }

    /// The figures of an expression that are what does not belong, in words.
    fn blamed(&self, expr: &Expr, dim: Dim) -> String {
        let mut names = Vec::new();
        expr.names(&mut names);
        let is_it = |n: &&str| self.names.value(n).is_some_and(|v| v.is_ok_and(|v| v.dim == dim));
        let names: Vec<&str> = names.into_iter().filter(is_it).collect();
        if names.is_empty() { String::new() } else { format!(": the figure {} is one", names.join(", ")) }
    }

    /// Evaluates without deciding what a bare number means.
    pub fn eval(&self, expr: &Expr) -> Result<Value, Fault> {
        let value = match &expr.node {
            Node::Bare(v) => Value { v: *v, dim: Dim::Bare },
            Node::Length(v) => Value { v: *v, dim: Dim::Length(1) },
            Node::Angle(v) => Value { v: *v, dim: Dim::Angle },
            Node::Name(name) => self.name(name, expr.span)?,
            Node::Neg(inner) => {
                let v = self.eval(inner)?;
                Value { v: -v.v, dim: v.dim }
            }
            Node::Op(op, a, b) => self.op(*op, a, b, expr.span)?,
            Node::Call(name, args) => self.call(name, args, expr.span)?,
        };
        if value.v.is_finite() {
            Ok(value)
        } else {
            Err(Fault::new(
                "this has no finite value",
                "check for a division by zero or a number that is too large",
                expr.span,
            ))
        }
    }

    fn name(&self, name: &str, span: (usize, usize)) -> Result<Value, Fault> {
        match self.names.value(name) {
            Some(Ok(v)) => Ok(v),
            Some(Err(why)) => Err(Fault::new(why, format!("mend the job figure '{name}'"), span)),
            None if name == "pi" || name == "π" => Ok(Value { v: std::f64::consts::PI, dim: Dim::Bare }),
            None if length_unit(name).is_some() || angle_unit(name).is_some() => Err(Fault::new(
                format!("the unit '{name}' has no number before it"),
                format!("write a number, for example 10 {name}"),
                span,
            )),
            None => {
                let known = self.names.known();
                let mend = if known.is_empty() {
                    "add a job figure with this name".to_string()
                } else {
                    format!("known here: {}", known.join(", "))
                };
                Err(Fault::new(format!("nothing is called '{name}'"), mend, span))
            }
        }
    }

    /// Brings two values to one dimension where a bare number stands beside a length or an angle.
    pub(super) fn alike(&self, a: Value, b: Value, span: (usize, usize)) -> Result<(f64, f64, Dim), Fault> {
        match (a.dim, b.dim) {
            (x, y) if x == y => Ok((a.v, b.v, x)),
            (Dim::Bare, Dim::Length(1)) => Ok((a.v * self.unit.mm(), b.v, b.dim)),
            (Dim::Length(1), Dim::Bare) => Ok((a.v, b.v * self.unit.mm(), a.dim)),
            (Dim::Bare, Dim::Angle) => Ok((a.v.to_radians(), b.v, b.dim)),
            (Dim::Angle, Dim::Bare) => Ok((a.v, b.v.to_radians(), a.dim)),
            (x, y) => Err(Fault::new(
                format!("{} and {} cannot be put together", x.said(), y.said()),
                "use two lengths or two angles",
                span,
            )),
        }
    }

    fn op(&self, op: char, a: &Expr, b: &Expr, span: (usize, usize)) -> Result<Value, Fault> {
        let (x, y) = (self.eval(a)?, self.eval(b)?);
        let too_high =
            || Fault::new("this multiplies angles or too many lengths", "keep to areas at most", span);
        let power = |d: Dim| match d {
            Dim::Bare => Some(0i8),
            Dim::Length(n) => Some(n),
            Dim::Angle => None,
        };
        let of = |n: i8| if n == 0 { Dim::Bare } else { Dim::Length(n) };
        match op {
            '+' | '-' => {
                let (p, q, dim) = self.alike(x, y, span)?;
                Ok(Value { v: if op == '+' { p + q } else { p - q }, dim })
            }
            '*' | '/' => {
                if op == '/' && y.v == 0.0 {
                    return Err(Fault::new(
                        "this divides by zero",
                        "make the lower value other than zero",
                        b.span,
                    ));
                }
                let v = if op == '*' { x.v * y.v } else { x.v / y.v };
                let sign = if op == '*' { 1 } else { -1 };
                let dim = match (x.dim, y.dim) {
                    (Dim::Angle, Dim::Bare) => Dim::Angle,
                    (Dim::Bare, Dim::Angle) if op == '*' => Dim::Angle,
                    (Dim::Angle, Dim::Angle) if op == '/' => Dim::Bare,
                    (p, q) => match (power(p), power(q)) {
                        (Some(p), Some(q)) if (p + sign * q).abs() <= 4 => of(p + sign * q),
                        _ => return Err(too_high()),
                    },
                };
                Ok(Value { v, dim })
            }
            _ => match (x.dim, y.dim) {
                (Dim::Bare, Dim::Bare) => Ok(Value { v: x.v.powf(y.v), dim: Dim::Bare }),
                (Dim::Length(1), Dim::Bare) if y.v == 2.0 => Ok(Value { v: x.v * x.v, dim: Dim::Length(2) }),
                _ => Err(Fault::new(
                    "only plain numbers can be raised to a power, and lengths squared",
                    "use ^2 on a length, or sqrt( )",
                    span,
                )),
            },
        }
    }

    fn call(&self, name: &str, args: &[Expr], span: (usize, usize)) -> Result<Value, Fault> {
        let wants = match name {
            "atan2" => 2..=2,
            "min" | "max" => 1..=16,
            "round" => 1..=2,
            "sin" | "cos" | "tan" | "asin" | "acos" | "atan" | "sqrt" | "abs" | "board" | "quarters" => 1..=1,
            _ => {
                return Err(Fault::new(
                    format!("no function is called '{name}'"),
                    format!("known: {FUNCTIONS}"),
                    span,
                ));
            }
        };
        if !wants.contains(&args.len()) {
            return Err(Fault::new(
                format!("{name}( ) takes {} value(s), not {}", wants.start(), args.len()),
                "separate the values with commas",
                span,
            ));
        }
        let values = args.iter().map(|a| self.eval(a)).collect::<Result<Vec<_>, _>>()?;
        let first = values[0];
        let bare = |v: f64| Value { v, dim: Dim::Bare };
        let angle = |v: f64| Value { v, dim: Dim::Angle };
        let plain = |v: Value| match v.dim {
            Dim::Bare => Ok(v.v),
            d => Err(Fault::new(
                format!("{} stands where a plain number belongs", d.said()),
                "divide by a length first",
                args[0].span,
            )),
        };
        let length = |mm: Option<f64>, wrong: &str, mend: &str| match mm {
            Some(v) => Ok(Value { v, dim: Dim::Length(1) }),
            None => Err(Fault::new(wrong, mend, args[0].span)),
        };
        Ok(match name {
            "sin" => bare(self.as_angle(first, &args[0])?.sin()),
            "cos" => bare(self.as_angle(first, &args[0])?.cos()),
            "tan" => bare(self.as_angle(first, &args[0])?.tan()),
            "asin" => angle(plain(first)?.asin()),
            "acos" => angle(plain(first)?.acos()),
            "atan" => angle(plain(first)?.atan()),
            "atan2" => {
                let (y, x, _) = self.alike(first, values[1], span)?;
                angle(y.atan2(x))
            }
            "sqrt" => match first.dim {
                Dim::Bare => bare(first.v.sqrt()),
                Dim::Length(n) if n % 2 == 0 => Value { v: first.v.sqrt(), dim: Dim::Length(n / 2) },
                d => {
                    return Err(Fault::new(
                        format!("the square root of {} is not a measure", d.said()),
                        "take the root of an area or a plain number",
                        args[0].span,
                    ));
                }
            },
            "abs" => Value { v: first.v.abs(), dim: first.dim },
            "board" => {
                let found = boards::board(plain(first)?);
                let mend = "write what it is called, in inches: board(1), board(2), board(4) … board(16)";
                length(found, "no softwood board is called so", mend)?
            }
            "quarters" => {
                let found = boards::quarters(plain(first)?);
                let mend = "write its quarters: quarters(4) for a 4/4 board, 5, 6, 8 … quarters(16)";
                length(found, "no hardwood board has so many quarters", mend)?
            }
            "round" => self.round(first, values.get(1).copied(), span)?,
            _ => {
                let mut best = first;
                for v in &values[1..] {
                    let (p, q, dim) = self.alike(best, *v, span)?;
                    best = Value { v: if name == "min" { p.min(q) } else { p.max(q) }, dim };
                }
                best
            }
        })
    }

    /// To whole job units or degrees, or to a step: `round(x, 0.5)`.
    fn round(&self, v: Value, step: Option<Value>, span: (usize, usize)) -> Result<Value, Fault> {
        let unit = match v.dim {
            Dim::Length(1) => self.unit.mm(),
            Dim::Angle => 1f64.to_radians(),
            _ => 1.0,
        };
        let (value, step, dim) = match step {
            Some(s) => self.alike(v, s, span)?,
            None => (v.v, unit, v.dim),
        };
        if step <= 0.0 {
            return Err(Fault::new("the rounding step must be above zero", "write a step such as 0.5", span));
        }
        Ok(Value { v: (value / step).round() * step, dim })
    }
}
