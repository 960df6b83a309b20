//! A number together with how it follows each unknown.

use std::ops::{Add, Mul, Neg, Sub};

#[derive(Clone, Debug, Default)]
pub struct Dual {
    pub value: f64,
    /// By each unknown; empty where it follows none.
    pub slope: Vec<f64>,
}

impl Dual {
    pub fn known(value: f64) -> Dual {
        Dual { value, slope: Vec::new() }
    }

    pub fn unknown(value: f64, k: usize, of: usize) -> Dual {
        let mut slope = vec![0.0; of];
        slope[k] = 1.0;
        Dual { value, slope }
    }

    /// A function of it, by its value and its derivative there.
    pub fn then(mut self, value: f64, derivative: f64) -> Dual {
        self.slope.iter_mut().for_each(|s| *s *= derivative);
        Dual { value, slope: self.slope }
    }

    pub fn sin(&self) -> Dual {
        self.clone().then(self.value.sin(), self.value.cos())
    }

    pub fn cos(&self) -> Dual {
        self.clone().then(self.value.cos(), -self.value.sin())
    }

    pub fn times(self, by: f64) -> Dual {
        let value = self.value * by;
        self.then(value, by)
    }

    fn with(mut self, other: &Dual, sign: f64) -> Dual {
        self.value += sign * other.value;
        if self.slope.is_empty() {
            self.slope = other.slope.iter().map(|s| sign * s).collect();
        } else {
            self.slope.iter_mut().zip(&other.slope).for_each(|(a, b)| *a += sign * b);
        }
        self
    }
}

impl Add<&Dual> for Dual {
    type Output = Dual;

    fn add(self, other: &Dual) -> Dual {
        self.with(other, 1.0)
    }
}

impl Sub<&Dual> for Dual {
    type Output = Dual;

    fn sub(self, other: &Dual) -> Dual {
        self.with(other, -1.0)
    }
}

impl Mul<&Dual> for Dual {
    type Output = Dual;

    fn mul(self, other: &Dual) -> Dual {
        let (a, b) = (self.value, other.value);
        let own = self.times(b);
        Dual { value: a * b, slope: own.slope }
            .with(&Dual { value: 0.0, slope: other.clone().times(a).slope }, 1.0)
    }
}

impl Neg for Dual {
    type Output = Dual;

    fn neg(self) -> Dual {
        self.times(-1.0)
    }
}

/// A point or a direction whose parts follow the unknowns.
#[derive(Clone, Debug, Default)]
pub struct Pair {
    pub x: Dual,
    pub y: Dual,
}

impl Pair {
    pub fn direction(angle: &Dual) -> Pair {
        Pair { x: angle.cos(), y: angle.sin() }
    }

    pub fn times(self, by: &Dual) -> Pair {
        Pair { x: self.x * by, y: self.y * by }
    }

    /// A quarter turn to the left.
    pub fn left(self) -> Pair {
        Pair { x: -self.y, y: self.x }
    }

    pub fn dot(&self, other: &Pair) -> Dual {
        self.x.clone() * &other.x + &(self.y.clone() * &other.y)
    }
}

impl Add<&Pair> for Pair {
    type Output = Pair;

    fn add(self, other: &Pair) -> Pair {
        Pair { x: self.x + &other.x, y: self.y + &other.y }
    }
}

impl Sub<&Pair> for Pair {
    type Output = Pair;

    fn sub(self, other: &Pair) -> Pair {
        Pair { x: self.x - &other.x, y: self.y - &other.y }
    }
}
