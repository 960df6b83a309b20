//! A frame as one solid a member and a plate, and a member by itself.

use glam::DAffine3;
use steelk_core::frame::Body as SolidBody;
use steelk_core::frame::{Bar, FrameList, FrameResult, Member, Profile, Standing, standing};

use super::bar;
use super::bent;
use super::file::{self, Solid};
use super::shell::Shell;
use super::{facets, sheet, stretches};

/// What is said of a body that is told by facets.
const FACETED: &str = " (in facets)";

fn in_facets(body: &SolidBody, at: &DAffine3, name: String, material: &str) -> Result<Solid, String> {
    match facets::shell(body, at) {
        Some(shell) => Ok(Solid { shell, name: name + FACETED, material: material.into() }),
        None => Err(format!("the facets of {name} do not close. Take the STL or the GLB")),
    }
}

/// A member by its own surfaces, where it has no others than are known.
fn exact(m: &Member, p: &Profile, at: &Bar) -> Option<Shell> {
    if m.is_twisted() || m.pressed.iter().any(Option::is_some) {
        return None;
    }
    bar::shell(m, p, at).or_else(|| bent::shell(m, p)).or_else(|| stretches::shell(m, p, at))
}

/// The body that a member is one of, and where it stands.
fn standing_of<'a>(bodies: &'a [Standing], name: &str) -> Option<(&'a Standing, &'a DAffine3)> {
    bodies.iter().find_map(|b| Some((b, &b.places.iter().find(|p| p.name == name)?.at)))
}

/// The whole frame where it stands: members and plates by their own surfaces; in facets, and called so, where
/// a member has others than are known.
pub fn frame(r: &FrameResult, list: &FrameList, saved_at: i64) -> Result<Vec<u8>, String> {
    let bodies = standing(r, true);
    let mut solids = Vec::new();
    for m in &r.members {
        let name = list.called(&m.name, false);
        let p = &r.profiles[m.profile];
        let shell = exact(m, p, &m.end(0));
        solids.push(match shell {
            Some(shell) => Solid { shell, name, material: m.material.name.clone() },
            None => {
                let (b, at) = standing_of(&bodies, &m.name).ok_or_else(|| format!("{name} has no body"))?;
                in_facets(&b.body, at, name, &m.material.name)?
            }
        });
    }
    for b in bodies.iter().filter(|b| b.is_plate) {
        let first = b.places.first().map_or("", |p| p.name.as_str());
        let plate = r.plates.iter().find(|p| p.places.iter().any(|q| q.name == first));
        let material = plate.map_or("", |p| p.piece.material.as_str());
        let exact = plate.and_then(|p| sheet::shell(&p.piece).ok());
        for place in &b.places {
            let name = list.called(&place.name, true);
            solids.push(match &exact {
                Some(shell) => {
                    Solid { shell: shell.clone().moved(&place.at), name, material: material.into() }
                }
                None => in_facets(&b.body, &place.at, name, material)?,
            });
        }
    }
    if solids.is_empty() {
        return Err(format!("{} has no member and no plate yet", r.mark));
    }
    let name = [r.mark.as_str(), r.name.as_str()].join(" ");
    Ok(file::write(&solids, name.trim(), "", saved_at))
}

/// A member by itself, along x; in facets where it has other surfaces than are known.
pub fn member(r: &FrameResult, m: &Member, mark: &str, saved_at: i64) -> Result<Vec<u8>, String> {
    let name = [mark, m.call.as_str()].join(" ").trim().to_string();
    let material = m.material.name.as_str();
    let p = &r.profiles[m.profile];
    // A bent one is told where it stands.
    let solid = match exact(m, p, &bar::ALONE) {
        Some(shell) => Solid { shell, name: name.clone(), material: material.into() },
        None => {
            let bodies = standing(r, true);
            let (b, at) = standing_of(&bodies, &m.name).ok_or_else(|| format!("{name} has no body"))?;
            let alone = if m.is_straight() { DAffine3::IDENTITY } else { *at };
            in_facets(&b.body, &alone, name.clone(), material)?
        }
    };
    Ok(file::write(&[solid], &name, material, saved_at))
}
