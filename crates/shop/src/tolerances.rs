//! General tolerances: what a drawing allows where it says nothing beside a figure.

use ground::word;

word! {
    /// The class of tolerances that a drawing names in its title block.
    pub enum ToleranceClass {
        #[default]
        Iso2768M,
        Iso2768F,
        Iso2768C,
        Iso2768V,
        Iso13920A,
        Iso13920B,
        Iso13920C,
        Iso13920D,
    }
}

use ToleranceClass::*;

/// The classes in their order: as they are stored, and as a title block has them.
pub const CLASSES: &[(&str, &str)] = &[
    ("iso2768_m", "ISO 2768-m"),
    ("iso2768_f", "ISO 2768-f"),
    ("iso2768_c", "ISO 2768-c"),
    ("iso2768_v", "ISO 2768-v"),
    ("iso13920_a", "ISO 13920-A"),
    ("iso13920_b", "ISO 13920-B"),
    ("iso13920_c", "ISO 13920-C"),
    ("iso13920_d", "ISO 13920-D"),
];

/// A row of a table: up to this size, and ± of each class; NaN where the standard has none.
type Row<const N: usize> = (f64, [f64; N]);

const NONE: f64 = f64::NAN;
const BEYOND: f64 = f64::INFINITY;

/// ISO 2768-1:1989, table 1, linear sizes except broken edges, mm: fine, medium, coarse, very coarse. From
/// memory. The inside radius of a bend is one of them: table 2 is of outside radii and chamfers.
const MACHINED: [Row<4>; 8] = [
    (3.0, [0.05, 0.1, 0.2, NONE]),
    (6.0, [0.05, 0.1, 0.3, 0.5]),
    (30.0, [0.1, 0.2, 0.5, 1.0]),
    (120.0, [0.15, 0.3, 0.8, 1.5]),
    (400.0, [0.2, 0.5, 1.2, 2.5]),
    (1000.0, [0.3, 0.8, 2.0, 4.0]),
    (2000.0, [0.5, 1.2, 3.0, 6.0]),
    (4000.0, [NONE, 2.0, 4.0, 8.0]),
];

/// Below this a size needs its own tolerance (ISO 2768-1), mm.
const SMALLEST: f64 = 0.5;

/// ISO 2768-1:1989, table 3, angles by the shorter side, minutes. From memory.
const TURNED: [Row<4>; 5] = [
    (10.0, [60.0, 60.0, 90.0, 180.0]),
    (50.0, [30.0, 30.0, 60.0, 120.0]),
    (120.0, [20.0, 20.0, 30.0, 60.0]),
    (400.0, [10.0, 10.0, 15.0, 30.0]),
    (BEYOND, [5.0, 5.0, 10.0, 20.0]),
];

/// ISO 13920:1996, table 1, linear sizes of welded constructions, mm: A to D. From memory.
const WELDED: [Row<4>; 11] = [
    (30.0, [1.0, 1.0, 1.0, 1.0]),
    (120.0, [1.0, 2.0, 3.0, 4.0]),
    (400.0, [1.0, 2.0, 4.0, 7.0]),
    (1000.0, [2.0, 3.0, 6.0, 9.0]),
    (2000.0, [3.0, 4.0, 8.0, 12.0]),
    (4000.0, [4.0, 6.0, 11.0, 16.0]),
    (8000.0, [5.0, 8.0, 14.0, 21.0]),
    (12_000.0, [6.0, 10.0, 18.0, 27.0]),
    (16_000.0, [7.0, 12.0, 21.0, 32.0]),
    (20_000.0, [8.0, 14.0, 24.0, 36.0]),
    (BEYOND, [9.0, 16.0, 27.0, 40.0]),
];

/// ISO 13920:1996, table 2, angles of welded constructions by the shorter leg, minutes. From memory.
const LEANING: [Row<4>; 3] = [
    (400.0, [20.0, 45.0, 60.0, 90.0]),
    (1000.0, [15.0, 30.0, 45.0, 75.0]),
    (BEYOND, [10.0, 20.0, 30.0, 60.0]),
];

fn row(table: &[Row<4>], size: f64, column: usize) -> Option<f64> {
    table.iter().find(|r| size <= r.0).map(|r| r.1[column]).filter(|v| !v.is_nan())
}

impl ToleranceClass {
    /// Whether it is one of welded constructions, and its column.
    fn column(self) -> (bool, usize) {
        match self {
            Iso2768F => (false, 0),
            Iso2768M => (false, 1),
            Iso2768C => (false, 2),
            Iso2768V => (false, 3),
            Iso13920A => (true, 0),
            Iso13920B => (true, 1),
            Iso13920C => (true, 2),
            Iso13920D => (true, 3),
        }
    }

    pub fn said(self) -> &'static str {
        CLASSES[self as usize].1
    }

    /// ± of a length, mm; none where the class has none for this size.
    pub fn length(self, mm: f64) -> Option<f64> {
        let mm = mm.abs();
        match self.column() {
            (true, k) => row(&WELDED, mm, k),
            (false, k) => row(&MACHINED, mm, k).filter(|_| mm >= SMALLEST),
        }
    }

    /// ± of an angle by its shorter side, rad; of one whose sides are not known the narrowest there is.
    pub fn angle(self, shorter: Option<f64>) -> f64 {
        let (welded, k) = self.column();
        let table: &[Row<4>] = if welded { &LEANING } else { &TURNED };
        (row(table, shorter.unwrap_or(BEYOND), k).unwrap_or_default() / 60.0).to_radians()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn classes_allow_what_the_standards_say() {
        // ISO 2768-1, tables 1 and 3, and ISO 13920, tables 1 and 2: from memory as the tables are, at their
        // edges, so that a row or column that is read wrong is found; no second source.
        for (class, size, allowed) in [
            (Iso2768M, 5.0, Some(0.1)),
            (Iso2768M, 30.0, Some(0.2)),
            (Iso2768M, 30.1, Some(0.3)),
            (Iso2768M, 260.0, Some(0.5)),
            (Iso2768F, 1999.0, Some(0.5)),
            (Iso2768F, 2001.0, None),
            (Iso2768C, 3.0, Some(0.2)),
            (Iso2768V, 2.0, None),
            (Iso2768V, 400.0, Some(2.5)),
            (Iso2768M, 0.4, None),
            (Iso2768M, 4001.0, None),
            (Iso13920B, 29.0, Some(1.0)),
            (Iso13920B, 900.0, Some(3.0)),
            (Iso13920D, 30_000.0, Some(40.0)),
        ] {
            assert_eq!(class.length(size), allowed, "{} at {size}", class.said());
        }
        let minutes = |class: ToleranceClass, side| (class.angle(side).to_degrees() * 60.0).round();
        assert_eq!(minutes(Iso2768M, Some(40.0)), 30.0);
        assert_eq!(minutes(Iso2768M, None), 5.0);
        assert_eq!(minutes(Iso13920A, Some(400.0)), 20.0);
        assert_eq!(minutes(Iso13920D, Some(5000.0)), 60.0);
    }

    #[test]
    fn a_class_is_stored_and_called_as_the_list_has_it() {
        let all = [Iso2768M, Iso2768F, Iso2768C, Iso2768V, Iso13920A, Iso13920B, Iso13920C, Iso13920D];
        assert_eq!(all.len(), CLASSES.len());
        for (class, (tag, said)) in all.into_iter().zip(CLASSES) {
            assert_eq!(serde_json::to_value(class).unwrap(), *tag);
            assert_eq!(class.said(), *said);
        }
    }

    #[test]
    fn a_larger_size_and_a_coarser_class_never_allow_less() {
        for table in [&MACHINED[..], &WELDED[..]] {
            for k in 0..4 {
                let of: Vec<f64> = table.iter().map(|r| r.1[k]).filter(|v| !v.is_nan()).collect();
                assert!(of.windows(2).all(|w| w[0] <= w[1]), "{of:?}");
            }
            for r in table {
                let of: Vec<f64> = r.1.iter().copied().filter(|v| !v.is_nan()).collect();
                assert!(of.windows(2).all(|w| w[0] <= w[1]), "{of:?}");
            }
        }
    }
}
