//! What does not change while the server runs: its health, and the shop book.

use actix_web::web::{Json, Query};
use serde::{Deserialize, Serialize};
use steelk_core::quantity::boards;
use steelk_core::shop::brake::NOTES;
use steelk_core::shop::threads::{SizeRow, screw_sizes, thread_sizes};
use steelk_core::shop::{self, Material, Stuff, gauge, limits};
use utoipa::ToSchema;

use crate::kinds::{KINDS, PaperKind};
use steelk_core::drawing::Paper;

#[derive(Serialize, ToSchema)]
pub struct Health {
    pub version: &'static str,
    pub format: u32,
}

#[utoipa::path(get, path = "/api/health", responses((status = 200, body = Health)))]
pub async fn health() -> Json<Health> {
    Json(Health { version: env!("CARGO_PKG_VERSION"), format: steelk_core::job::FORMAT })
}

#[derive(Serialize, ToSchema)]
pub struct GaugeRow {
    pub number: u32,
    pub mm: f64,
}

#[derive(Serialize, ToSchema)]
pub struct RadiusRow {
    pub thickness: f64,
    pub radius: f64,
}

/// A material with its gauges and smallest radii.
#[derive(Serialize, ToSchema)]
pub struct ShelfMaterial {
    #[serde(flatten)]
    pub material: Material,
    pub gauge_said: String,
    /// How else than by a length its thickness may be told; empty for no other way.
    pub thickness_hint: String,
    pub gauges: Vec<GaugeRow>,
    pub radii: Vec<RadiusRow>,
}

#[derive(Serialize, ToSchema)]
pub struct Book {
    pub materials: Vec<ShelfMaterial>,
    /// Preferred metric thicknesses, mm.
    pub thicknesses: Vec<f64>,
    /// What stands under every bend sheet.
    pub brake_notes: [&'static str; 2],
    /// What can be taken away.
    pub papers: &'static [PaperKind],
    /// Threads that holes are tapped with, each with its tap drill.
    pub threads: &'static [SizeRow],
    /// Screws that holes are drilled for.
    pub screws: &'static [SizeRow],
    /// Sizes of paper.
    pub sizes: [&'static str; 4],
}

const PREFERRED: [f64; 23] = [
    0.5, 0.6, 0.8, 1.0, 1.2, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 8.0, 10.0, 12.0, 15.0, 20.0, 25.0, 30.0,
    40.0, 50.0, 60.0, 80.0,
];

fn thickness_hint(m: &Material) -> String {
    match (m.gauge.and_then(|g| gauge::thickness(g, 16)), m.stuff, boards::board(2.0)) {
        (Some(mm), _, _) => format!("A thickness may be a gauge: 16 ga = {mm:.2} mm."),
        (None, Stuff::Wood, Some(mm)) => {
            format!("A board may be told by its name: board(2) = {mm:.1} mm, quarters(4) for a 4/4 board.")
        }
        _ => String::new(),
    }
}

#[utoipa::path(get, path = "/api/book", responses((status = 200, body = Book)))]
pub async fn book() -> Json<Book> {
    let shelf = |m: &Material| ShelfMaterial {
        material: m.clone(),
        gauge_said: m.gauge.map_or("", |g| g.said()).into(),
        thickness_hint: thickness_hint(m),
        gauges: m
            .gauge
            .map_or(Vec::new(), gauge::table)
            .into_iter()
            .map(|(number, mm)| GaugeRow { number, mm })
            .collect(),
        radii: PREFERRED
            .iter()
            .filter(|t| **t <= 12.0)
            .filter_map(|&t| Some(RadiusRow { thickness: t, radius: limits::smallest_radius(m, t)?.value }))
            .collect(),
    };
    Json(Book {
        materials: shop::materials().iter().map(|m| shelf(m)).collect(),
        thicknesses: PREFERRED.to_vec(),
        brake_notes: NOTES,
        papers: KINDS,
        threads: thread_sizes(),
        screws: screw_sizes(),
        sizes: Paper::ALL.map(Paper::name),
    })
}

#[derive(Deserialize)]
pub struct SectionQuery {
    #[serde(default)]
    q: String,
}

/// A section of the catalogue with what its true shape gives and what is published.
#[derive(Serialize, ToSchema)]
pub struct SectionRow {
    pub designation: String,
    pub series: String,
    pub source: String,
    /// Across and up, mm.
    pub size: [f64; 2],
    /// kg/m at 7850 kg/m³ from the true shape.
    pub worked: f64,
    /// kg/m as published.
    pub published: Option<f64>,
    /// cm², m²/m, cm⁴.
    pub area: f64,
    pub surface: f64,
    pub i_y: f64,
    pub i_z: f64,
}

#[derive(Serialize, ToSchema)]
pub struct SectionList {
    /// At most 40.
    pub sections: Vec<SectionRow>,
    /// In the whole catalogue.
    pub total: usize,
}

#[utoipa::path(get, path = "/api/sections", params(("q" = Option<String>, Query,
    description = "words of a designation"),), responses((status = 200, body = SectionList)))]
pub async fn sections(query: Query<SectionQuery>) -> Json<SectionList> {
    use steelk_core::shop::section;
    let row = |s: &section::Section| {
        let p = s.shape.properties();
        SectionRow {
            designation: s.designation.clone(),
            series: s
                .series
                .and_then(|i| section::series().get(i))
                .map_or_else(String::new, |s| s.name.clone()),
            source: s.source.clone(),
            size: s.shape.size().to_array(),
            worked: s.worked_mass(7850.0),
            published: s.mass,
            area: p.area / 100.0,
            surface: p.perimeter / 1000.0,
            i_y: p.i_y / 1e4,
            i_z: p.i_z / 1e4,
        }
    };
    let text: String = query.q.chars().take(60).collect();
    Json(SectionList {
        sections: section::search(&text, 40).into_iter().map(row).collect(),
        total: section::sections().len(),
    })
}
