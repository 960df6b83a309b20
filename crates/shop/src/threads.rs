//! Screw threads with their tap drills, and screws with what a hole for one wants. Lengths mm.

use std::sync::OnceLock;

use ground::word;
use serde::Serialize;

/// A thread that a shop taps.
#[derive(Clone, Debug, PartialEq)]
pub struct Thread {
    /// `M8`, `M8x1`, `#8-32`, `1/4-20`: coarse metric ones without their pitch.
    pub size: &'static str,
    /// The screw that it takes: `M8`, `#8`, `1/4`.
    pub screw: &'static str,
    pub major: f64,
    pub pitch: f64,
    pub drill: f64,
    pub inch: bool,
}

/// What a hole for a screw wants.
#[derive(Clone, Debug, PartialEq)]
pub struct Screw {
    pub size: &'static str,
    pub diameter: f64,
    pub inch: bool,
    /// Close, normal and loose fit.
    pub clearance: [f64; 3],
    /// Counterbore for a socket head; none where no table has one.
    pub bore: Option<f64>,
    /// Head of a countersunk screw, at the sharp edge of its cone.
    pub head: Option<f64>,
}

word! {
    /// How much room a screw has in its hole.
    pub enum Fit {
        #[default]
        Normal,
        Close,
        Loose,
    }
}

const INCH: f64 = 25.4;

impl Thread {
    pub fn source(&self) -> &'static str {
        if self.inch {
            "ASME B1.1; tap drills in common use (from memory)"
        } else {
            "ISO 261 and ISO 2306 (from memory)"
        }
    }

    /// How much deeper than the thread a blind hole is drilled: run-out of the tap (common practice).
    pub fn run_out(&self) -> f64 {
        3.0 * self.pitch
    }
}

impl Screw {
    pub fn clearance(&self, fit: Fit) -> f64 {
        let [close, normal, loose] = self.clearance;
        match fit {
            Fit::Close => close,
            Fit::Normal => normal,
            Fit::Loose => loose,
        }
    }

    pub fn clearance_source(&self) -> &'static str {
        if self.inch { "ASME B18.2.8 (from memory)" } else { "ISO 273" }
    }

    /// How deep a socket head goes in: its height, which is the diameter of the screw, and for metric ones a
    /// little more.
    pub fn bore_depth(&self) -> f64 {
        let d = self.diameter;
        let below = match d {
            _ if self.inch => 0.0,
            d if d <= 6.0 => 0.4,
            d if d <= 20.0 => 0.6,
            d if d <= 27.0 => 0.8,
            _ => 1.0,
        };
        d + below
    }

    pub fn bore_source(&self) -> &'static str {
        if self.inch { "ASME B18.3 (from memory)" } else { "ISO 4762, DIN 974-1 row 1 (from memory)" }
    }

    /// Angle of its countersunk head, rad.
    pub fn head_angle(&self) -> f64 {
        if self.inch { 82f64 } else { 90.0 }.to_radians()
    }

    pub fn head_source(&self) -> &'static str {
        if self.inch { "ASME B18.6.3 (from memory)" } else { "ISO 10642 (from memory)" }
    }
}

/// A nominal diameter: `M8` and `8`, `#8`, `5/16`.
fn nominal(text: &str) -> Option<(f64, bool)> {
    if let Some(number) = text.strip_prefix('#') {
        // ASME B1.1: 0.060 in, and 0.013 in for each number.
        return Some(((0.060 + 0.013 * number.parse::<f64>().ok()?) * INCH, true));
    }
    if let Some(metric) = text.strip_prefix('M') {
        return Some((metric.parse().ok()?, false));
    }
    let inches = match text.split_once('/') {
        Some((a, b)) => a.parse::<f64>().ok()? / b.parse::<f64>().ok()?,
        None => text.parse().ok()?,
    };
    Some((inches * INCH, true))
}

/// Every thread, metric ones first, from small to large.
pub fn threads() -> &'static [Thread] {
    static TABLE: OnceLock<Vec<Thread>> = OnceLock::new();
    TABLE
        .get_or_init(|| include_str!("../data/threads.csv").lines().skip(1).filter_map(read_thread).collect())
}

fn read_thread(line: &'static str) -> Option<Thread> {
    let [size, diameter, pitch, drill] = line.split(',').collect::<Vec<_>>()[..] else { return None };
    let metric = size.starts_with('M');
    let screw = size.split(['x', '-']).next()?;
    let (major, inch) = nominal(if metric { screw } else { diameter })?;
    let (pitch, drill): (f64, f64) = (pitch.parse().ok()?, drill.parse().ok()?);
    let [pitch, drill] = if inch { [INCH / pitch, drill * INCH] } else { [pitch, drill] };
    Some(Thread { size, screw, major, pitch, drill, inch })
}

pub fn screws() -> &'static [Screw] {
    static TABLE: OnceLock<Vec<Screw>> = OnceLock::new();
    TABLE.get_or_init(|| include_str!("../data/screws.csv").lines().skip(1).filter_map(read_screw).collect())
}

fn read_screw(line: &'static str) -> Option<Screw> {
    let [size, close, normal, loose, bore, head] = line.split(',').collect::<Vec<_>>()[..] else {
        return None;
    };
    let (diameter, inch) = nominal(size)?;
    let mm = |text: &str| text.parse().ok().map(|v: f64| if inch { v * INCH } else { v });
    let clearance = [mm(close)?, mm(normal)?, mm(loose)?];
    Some(Screw { size, diameter, inch, clearance, bore: mm(bore), head: mm(head) })
}

/// A size as it is offered where one is asked for.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct SizeRow {
    pub size: &'static str,
    /// What it comes with: its tap drill, or its hole.
    pub said: String,
    /// Offered before anything is typed.
    pub usual: bool,
}

/// Screws that most shops have; of threads the coarse ones of these.
const USUAL: [&str; 16] =
    ["M3", "M4", "M5", "M6", "M8", "M10", "M12", "M16", "#4", "#6", "#8", "#10", "1/4", "5/16", "3/8", "1/2"];

fn row(size: &'static str, usual: bool, what: &str, mm: f64, inch: bool) -> SizeRow {
    let said = if inch { format!("{what} {:.4} in", mm / INCH) } else { format!("{what} {mm} mm") };
    SizeRow { size, said, usual }
}

/// Every thread with its tap drill.
pub fn thread_sizes() -> &'static [SizeRow] {
    static ROWS: OnceLock<Vec<SizeRow>> = OnceLock::new();
    let coarse = |t: &Thread| threads().iter().find(|o| o.screw == t.screw) == Some(t);
    let said = |t: &Thread| {
        let usual = USUAL.contains(&t.screw) && coarse(t);
        row(t.size, usual, "tap drill", t.drill, t.inch)
    };
    ROWS.get_or_init(|| threads().iter().map(said).collect())
}

/// Every screw with the hole of its normal fit.
pub fn screw_sizes() -> &'static [SizeRow] {
    static ROWS: OnceLock<Vec<SizeRow>> = OnceLock::new();
    let said = |s: &Screw| row(s.size, USUAL.contains(&s.size), "hole", s.clearance(Fit::Normal), s.inch);
    ROWS.get_or_init(|| screws().iter().map(said).collect())
}

/// As it stands in the tables: `m8 × 1.25` is `M8x1.25`, `8-32` is told apart from an inch by its table.
fn tidy(text: &str) -> String {
    let told = text.trim().replace(['×', 'X'], "x").replace(' ', "");
    match told.strip_prefix('m') {
        Some(rest) => format!("M{rest}"),
        None => told,
    }
}

/// The thread of a designation; a coarse one may name its pitch.
pub fn thread(text: &str) -> Option<&'static Thread> {
    let told = tidy(text);
    let of = |told: &str| threads().iter().find(|t| t.size == told);
    let pitched = || {
        let (screw, pitch) = told.split_once('x')?;
        let pitch: f64 = pitch.parse().ok()?;
        threads().iter().find(|t| !t.inch && t.screw == screw && (t.pitch - pitch).abs() < 1e-9)
    };
    of(&told).or_else(|| of(&format!("#{told}"))).or_else(pitched)
}

/// The screw of a size, or of a thread's designation.
pub fn screw(text: &str) -> Option<&'static Screw> {
    let told = tidy(text);
    let of = |told: &str| screws().iter().find(|s| s.size == told);
    of(&told).or_else(|| of(thread(&told)?.screw))
}

/// Threads that may have been meant, for who named another.
pub fn threads_like(text: &str) -> String {
    let told = tidy(text);
    let own = |t: &&Thread| t.screw == told || told.strip_prefix('M').is_some() != t.inch;
    let of_screw: Vec<&str> = threads().iter().filter(|t| t.screw == told).map(|t| t.size).collect();
    let pick =
        if of_screw.is_empty() { threads().iter().filter(own).map(|t| t.size).collect() } else { of_screw };
    format!("pick one of {}", pick.join(", "))
}

/// Screws that may have been meant.
pub fn screws_like(text: &str) -> String {
    let metric = tidy(text).starts_with('M');
    let of: Vec<&str> = screws().iter().filter(|s| s.inch != metric).map(|s| s.size).collect();
    format!("pick one of {}", of.join(", "))
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Every tap drill lies between the least and the greatest minor diameter of its nut thread: ISO 965-1,
    /// 5.1 and table 6 formulas for 6H; ASME B1.1, 5.8 formulas for 2B.
    #[test]
    fn tap_drills_lie_in_the_minor_diameter_of_the_standard() {
        assert!(threads().len() > 70);
        for t in threads() {
            let least = t.major - 1.082_531_75 * t.pitch;
            let tolerance = if t.inch {
                let (p, d) = (t.pitch / INCH, t.major / INCH);
                let coarse = 0.25 * p - 0.4 * p * p;
                let small = (0.05 * p.powf(2.0 / 3.0) + 0.03 * p / d - 0.002).min(0.394 * p).max(coarse);
                INCH * if d < 0.25 { small } else { coarse }
            } else if t.pitch >= 1.0 {
                0.230 * t.pitch.powf(0.7)
            } else {
                0.433 * t.pitch - 0.190 * t.pitch.powf(1.22)
            };
            // 9/16-18 and 5/8-18 are drilled in common use 0.015 mm over the greatest.
            assert!(
                t.drill > least - 1e-9 && t.drill < least + tolerance + 0.016,
                "{}: {:.3} not within {:.3} to {:.3}",
                t.size,
                t.drill,
                least,
                least + tolerance
            );
        }
    }

    /// Rows of ISO 273:1979, and what its fits have in common.
    #[test]
    fn screws_have_room_in_their_holes() {
        for (size, row) in [("M3", [3.2, 3.4, 3.6]), ("M8", [8.4, 9.0, 10.0]), ("M20", [21.0, 22.0, 24.0])] {
            assert_eq!(screw(size).unwrap().clearance, row);
        }
        for s in screws() {
            let [close, normal, loose] = s.clearance;
            assert!(s.diameter < close && close < normal && normal < loose, "{}", s.size);
            assert!(loose < 1.36 * s.diameter + 0.2, "{}", s.size);
            // A head is held by the rim of its hole.
            assert!(s.head.into_iter().chain(s.bore).all(|h| h > 1.3 * loose), "{}", s.size);
            // ISO 10642: the theoretical head diameter is 2.24 times that of the screw.
            if let (false, Some(head)) = (s.inch, s.head) {
                assert!((head - 2.24 * s.diameter).abs() < 0.01 || s.diameter > 12.0, "{}", s.size);
            }
        }
    }

    /// Number sizes: ASME B1.1 has 0.164 in for #8, 0.190 for #10.
    #[test]
    fn sizes_are_read_as_they_are_written() {
        assert!((thread("8-32").unwrap().major / INCH - 0.164).abs() < 1e-9);
        assert!((thread("#10-24").unwrap().major / INCH - 0.190).abs() < 1e-9);
        assert_eq!(thread("m8 × 1.25").unwrap().size, "M8");
        assert_eq!(thread("M8X1").unwrap().pitch, 1.0);
        assert!((thread("1/4-20").unwrap().pitch - 1.27).abs() < 1e-12);
        assert_eq!(screw("#8-32").unwrap().size, "#8");
        assert_eq!(screw("M10x1").unwrap().size, "M10");
        for wrong in ["", "M7", "M8x2", "#8", "8", "1/4-19", "x"] {
            assert!(thread(wrong).is_none(), "{wrong}");
        }
        assert!(threads_like("#8").contains("#8-32, #8-36"));
        assert!(screws_like("M7").contains("M6") && !screws_like("M7").contains("#8"));
    }
}
