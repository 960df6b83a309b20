//! Every variant of a job evaluated: sizes, masses, findings and the drawings' tally side by side.

use brief::Tally;
use ground::finding::{Patch, Severity};
use ground::quantity::Fault;
use serde::Serialize;

use super::{JobResult, evaluate};
use crate::job::{Job, Variant};

/// Variants of one job.
pub const MOST_VARIANTS: usize = 60;

/// One variant beside the others.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct VariantRow {
    /// Empty for the job as it stands.
    pub name: String,
    /// Why it cannot be made at all, or which of its figures cannot.
    pub trouble: String,
    pub pieces: Vec<VariantPart>,
    pub frames: Vec<VariantPart>,
    /// Of all pieces and frames in their quantities, as it is printed.
    pub mass: String,
    /// Of all drawings.
    pub tally: Tally,
    /// Changes of the job that take its values; none for the job as it stands.
    pub take: Vec<Patch>,
}

/// A piece or a frame in a variant.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct VariantPart {
    pub id: String,
    pub mark: String,
    /// Flat length and width of a piece as they are printed; empty for a frame.
    pub size: String,
    /// One of them.
    pub mass: String,
    pub made: bool,
    pub stops: usize,
    pub warns: usize,
}

/// The job as it stands, then its variants; why there are no more where there are too many.
pub fn variants(job: &Job) -> Vec<VariantRow> {
    let own = row("", job, &evaluate(job));
    let one = |v: &Variant| {
        ground::halt::point();
        let (made, result) = in_variant(job, v)?;
        Ok(VariantRow { take: v.patch(job)?, ..row(&v.name, &made, &result) })
    };
    let others = job.variants.iter().take(MOST_VARIANTS);
    let others = others.map(|v| one(v).unwrap_or_else(|fault: Fault| refused(&v.name, &fault)));
    let mut out: Vec<VariantRow> = std::iter::once(own).chain(others).collect();
    if job.variants.len() > MOST_VARIANTS {
        let message = format!("{MOST_VARIANTS} variants are the most; the rest is left out");
        out.push(refused("", &Fault::new(message, "make a job of them", (0, 0))));
    }
    out
}

/// A variant of the job with all that comes of it.
pub fn in_variant(job: &Job, variant: &Variant) -> Result<(Job, JobResult), Fault> {
    let made = variant.of(job)?;
    let result = evaluate(&made);
    Ok((made, result))
}

fn refused(name: &str, fault: &Fault) -> VariantRow {
    VariantRow {
        name: name.into(),
        trouble: format!("{}; {}", fault.message, fault.mend),
        pieces: Vec::new(),
        frames: Vec::new(),
        mass: String::new(),
        tally: Tally::default(),
        take: Vec::new(),
    }
}

fn row(name: &str, job: &Job, result: &JobResult) -> VariantRow {
    let warns = |of: &[ground::finding::Finding]| of.iter().filter(|f| f.severity == Severity::Warn).count();
    let figure = |p: &sheet::result::PieceResult, key: &str| {
        p.figures.iter().find(|f| f.key == key).map(|f| f.text.clone()).unwrap_or_default()
    };
    let wrong =
        result.figures.iter().find_map(|f| Some(format!("{}: {}", f.name, f.fault.as_ref()?.message)));
    let tallies = result.briefs.iter().map(|b| b.tally);
    VariantRow {
        name: name.into(),
        trouble: wrong.unwrap_or_default(),
        pieces: result
            .pieces
            .iter()
            .map(|p| VariantPart {
                id: p.id.clone(),
                mark: p.mark.clone(),
                size: if p.made {
                    format!(
                        "{} × {}",
                        p.display.length(p.value("flat_length")),
                        p.display.length_unit(p.value("flat_width"))
                    )
                } else {
                    String::new()
                },
                mass: figure(p, "mass"),
                made: p.made,
                stops: p.stops(),
                warns: warns(&p.findings),
            })
            .collect(),
        frames: result
            .frames
            .iter()
            .map(|f| VariantPart {
                id: f.id.clone(),
                mark: f.mark.clone(),
                size: String::new(),
                mass: job.display.mass(f.mass()),
                made: f.made,
                stops: f.stops(),
                warns: warns(&f.findings),
            })
            .collect(),
        mass: job.display.mass(result.mass()),
        tally: tallies.fold(Tally::default(), |a, b| Tally {
            all: a.all + b.all,
            met: a.met + b.met,
            off: a.off + b.off,
            lost: a.lost + b.lost,
            untied: a.untied + b.untied,
            taken: a.taken + b.taken,
            out: a.out + b.out,
        }),
        take: Vec::new(),
    }
}
