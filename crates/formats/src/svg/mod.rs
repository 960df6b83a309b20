//! A drawing as SVG at true size (width and height in mm); contours out of one.

mod curves;
mod read;

pub use read::read;

use std::fmt::Write;

use base64::prelude::{BASE64_STANDARD, Engine};
use glam::DVec2;
use steelk_core::drawing::{Anchor, Drawing, Item, Pen};
use steelk_core::geom::{Contour, Segment};

/// Family names as the application and the PDF writer know them.
const TEXT: &str = "Barlow, 'Helvetica Neue', Arial, sans-serif";

pub fn svg(drawing: &Drawing) -> String {
    let mut out = String::with_capacity(4096);
    let (w, h) = (drawing.size.x, drawing.size.y);
    let _ = write!(
        out,
        r#"<svg xmlns="http://www.w3.org/2000/svg" width="{0}mm" height="{1}mm" viewBox="0 0 {0} {1}"
  font-family="{TEXT}" fill="none" stroke-linecap="round" stroke-linejoin="round"><title>{2}</title>"#,
        n(w),
        n(h),
        escape(&drawing.title)
    );
    let mut windows = 0;
    items(&mut out, &drawing.items, &mut windows);
    out.push_str("</svg>");
    out
}

fn n(v: f64) -> String {
    let v = (v * 1e4).round() / 1e4;
    if v == 0.0 { "0".into() } else { format!("{v}") }
}

pub fn escape(text: &str) -> String {
    text.chars()
        // Control characters and the two that are none in XML.
        .filter(|c| !c.is_control() && !matches!(c, '\u{fffe}' | '\u{ffff}'))
        .map(|c| match c {
            '&' => "&amp;".to_string(),
            '<' => "&lt;".to_string(),
            '>' => "&gt;".to_string(),
            '"' => "&quot;".to_string(),
            c => c.to_string(),
        })
        .collect()
}

/// Signs that the fonts of the papers have no shape for, by those that say the same.
fn lettered(text: &str) -> String {
    [("⌀", "Ø"), ("□", "sq "), ("→", "›"), ("≤", "at most "), ("\u{202f}", " "), ("\u{2009}", " ")]
        .iter()
        .fold(text.to_string(), |t, (from, to)| t.replace(from, to))
}

/// Stroke of a pen: colour, width and dashes.
fn pen(p: Pen) -> &'static str {
    match p {
        Pen::Cut => r##"stroke="#23211f" stroke-width="0.35""##,
        Pen::BendUp => r##"stroke="#2f4b7c" stroke-width="0.3" stroke-dasharray="6 1.5 0.6 1.5""##,
        Pen::BendDown => r##"stroke="#8a4b1f" stroke-width="0.3" stroke-dasharray="4 2""##,
        Pen::Hair => r##"stroke="#5c5750" stroke-width="0.15""##,
        Pen::Faint => r##"stroke="#8c857b" stroke-width="0.15" stroke-dasharray="1.5 1.5""##,
        Pen::Edge => r##"stroke="#23211f" stroke-width="0.45""##,
        Pen::Hidden => r##"stroke="#4a453f" stroke-width="0.22" stroke-dasharray="2 1""##,
        Pen::Centre => r##"stroke="#5c5750" stroke-width="0.18" stroke-dasharray="7 1.2 1.2 1.2""##,
    }
}

fn items(out: &mut String, list: &[Item], windows: &mut usize) {
    for item in list {
        match item {
            Item::Line { a, b, pen: p } => {
                let _ =
                    write!(out, r#"<path d="M{} {}L{} {}" {}/>"#, n(a.x), n(a.y), n(b.x), n(b.y), pen(*p));
            }
            Item::Path { points, pen: p } => {
                let d: Vec<String> = points.iter().map(|p| format!("{} {}", n(p.x), n(p.y))).collect();
                let _ = write!(out, r#"<path d="M{}" {}/>"#, d.join("L"), pen(*p));
            }
            Item::Shape { loops, pen: p, filled } => {
                let d: String = loops.iter().map(path).collect();
                let fill = if *filled { r##" fill="#efe9dd" fill-rule="evenodd""## } else { "" };
                let _ = write!(out, r#"<path d="{d}" {}{fill}/>"#, pen(*p));
            }
            Item::Facet { points, shade } => {
                let d: Vec<String> =
                    points.iter().map(|p: &DVec2| format!("{} {}", n(p.x), n(p.y))).collect();
                let v = |from: f64, to: f64| (from + (to - from) * shade.clamp(0.0, 1.0)) as u8;
                let c = format!("#{:02x}{:02x}{:02x}", v(70.0, 226.0), v(72.0, 219.0), v(76.0, 205.0));
                let _ = write!(
                    out,
                    r#"<path d="M{}Z" fill="{c}" stroke="{c}" stroke-width="0.1"/>"#,
                    d.join("L")
                );
            }
            Item::Text { at, text, size, anchor, turn, bold } => {
                let anchor = match anchor {
                    Anchor::Start => "start",
                    Anchor::Middle => "middle",
                    Anchor::End => "end",
                };
                let turn = if *turn == 0.0 {
                    String::new()
                } else {
                    format!(r#" transform="rotate({} {} {})""#, n(*turn), n(at.x), n(at.y))
                };
                // The font's own name for its bold: readers that go by names find no bold in "Barlow".
                let weight = if *bold {
                    format!(r#" font-family="'Barlow SemiBold', {TEXT}" font-weight="600""#)
                } else {
                    String::new()
                };
                let _ = write!(
                    out,
                    r##"<text x="{}" y="{}" font-size="{}" text-anchor="{anchor}"
  fill="#23211f"{weight}{turn}>{}</text>"##,
                    n(at.x),
                    n(at.y),
                    n(*size),
                    escape(&lettered(text))
                );
            }
            Item::Picture { min, max, picture } => {
                let size = *max - *min;
                let _ = write!(
                    out,
                    r#"<image x="{}" y="{}" width="{}" height="{}" preserveAspectRatio="xMinYMid meet"
  href="data:{};base64,{}"/>"#,
                    n(min.x),
                    n(min.y),
                    n(size.x),
                    n(size.y),
                    picture.mime,
                    BASE64_STANDARD.encode(&picture.bytes)
                );
            }
            Item::Scaled { by, items: inner } => {
                // More places than a length has: over a page they add up.
                let _ = write!(out, r#"<g transform="scale({:.9} {:.9})">"#, by.x, by.y);
                items(out, inner, windows);
                out.push_str("</g>");
            }
            Item::Window { min, max, items: inner } => {
                *windows += 1;
                let id = *windows;
                let s = *max - *min;
                let _ = write!(
                    out,
                    r#"<clipPath id="w{id}"><rect x="{}" y="{}" width="{}" height="{}"/></clipPath>
<g clip-path="url(#w{id})">"#,
                    n(min.x),
                    n(min.y),
                    n(s.x),
                    n(s.y)
                );
                items(out, inner, windows);
                out.push_str("</g>");
            }
        }
    }
}

/// Path data of a closed contour, arcs kept.
pub fn path(c: &Contour) -> String {
    let mut d = strokes(c.segments());
    d.push('Z');
    d
}

/// Path data of lines and arcs, lifted where one does not begin at the end of the last.
pub fn strokes(segments: impl IntoIterator<Item = Segment>) -> String {
    let mut d = String::new();
    let mut here = None;
    for s in segments {
        if here.replace(s.b) != Some(s.a) {
            let _ = write!(d, "M{} {}", n(s.a.x), n(s.a.y));
        }
        match s.arc() {
            None => {
                let _ = write!(d, "L{} {}", n(s.b.x), n(s.b.y));
            }
            Some(arc) => {
                let large = u8::from(arc.sweep.abs() > std::f64::consts::PI + 1e-9);
                let _ = write!(
                    d,
                    "A{0} {0} 0 {large} {1} {2} {3}",
                    n(arc.radius),
                    u8::from(arc.sweep > 0.0),
                    n(s.b.x),
                    n(s.b.y)
                );
            }
        }
    }
    d
}
