//! The shipped sample job.

use steelk_formats::jobfile;

use crate::api::State;

const LINE: &str = include_str!("../../../demo/orchard-line.steelk.json");
/// The picture that one of its pieces is traced from.
const PHOTOGRAPH: &[u8] = include_bytes!("../../../demo/pump-gasket.jpg");

/// Puts the sample on an empty rack; a rack with jobs is left as it is.
pub fn fill(state: &State) -> Result<bool, String> {
    let held = |archived| state.store.jobs(archived, 0, 1).map(|r| r.1);
    if held(false).map_err(|e| e.to_string())? + held(true).map_err(|e| e.to_string())? > 0 {
        return Ok(false);
    }
    let job = jobfile::read(LINE.as_bytes()).map_err(|e| e.to_string())?;
    state.store.keep_file(&crate::api::digest(PHOTOGRAPH), "jpeg", PHOTOGRAPH).map_err(|e| e.to_string())?;
    crate::api::file_new(state, job, "shipped sample").map_err(|e| e.to_string())?;
    Ok(true)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_picture_that_the_sample_names_is_the_one_that_is_shipped() {
        let job = jobfile::read(LINE.as_bytes()).unwrap();
        let named: Vec<&str> =
            job.pieces.iter().filter_map(|p| p.tracing.as_ref()).map(|t| t.picture.as_str()).collect();
        assert_eq!(named, [crate::api::digest(PHOTOGRAPH)]);
    }
}
