//! Where a face has the most room for a word.

use glam::DVec2;

use super::Contour;

/// Places tried along each way, and how often those about the best are tried again at half the distance.
const TRIED: usize = 10;
const MOST_TRIED: usize = 80;
const AGAIN: usize = 5;

/// A place in a face that stands far from its edges, about the furthest; none where the face has nowhere.
pub fn roomiest(outer: &Contour, holes: &[&Contour]) -> Option<DVec2> {
    let sides: Vec<_> = outer.segments().chain(holes.iter().flat_map(|h| h.segments())).collect();
    let room = |p: DVec2| {
        let inside = outer.contains(p) && !holes.iter().any(|h| h.contains(p));
        inside.then(|| sides.iter().map(|s| s.nearest(p).distance(p)).fold(f64::INFINITY, f64::min))
    };
    let b = outer.bounds();
    let mut tried = TRIED;
    let (mut at, mut most, mut step) = loop {
        let step = b.size() / tried as f64;
        let places = (0..tried * tried)
            .map(|k| b.min + step * DVec2::new((k % tried) as f64 + 0.5, (k / tried) as f64 + 0.5));
        let best = places.filter_map(|p| Some((p, room(p)?))).max_by(|a, b| a.1.total_cmp(&b.1));
        match best {
            Some((p, most)) => break (p, most, step),
            None if tried * 2 > MOST_TRIED => return None,
            None => tried *= 2,
        }
    };
    for _ in 0..AGAIN {
        step /= 2.0;
        for (x, y) in [(-1.0, 0.0), (1.0, 0.0), (0.0, -1.0), (0.0, 1.0), (-1.0, -1.0), (1.0, 1.0)] {
            let p = at + step * DVec2::new(x, y);
            if let Some(r) = room(p).filter(|r| *r > most) {
                (at, most) = (p, r);
            }
        }
    }
    Some(at)
}
