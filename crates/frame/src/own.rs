/// The flat of a piece on the bench as a section, east across and north up.
pub fn of_piece(job: &Job, piece: &Piece) -> Result<Section, String> {
    let r = sheet::evaluate_piece(job, piece);
    if !r.made || r.flat.outer.bounds().size().max_element() > 3000.0 {
        return Err(format!(
            "the flat of {} is no section: it cannot be made yet, or is larger than 3 m",
            piece.mark
        ));
    }
    let middle = r.flat.outer.bounds().centre();
    let moved = |c: &Contour| c.moved(0.0, -middle).outward();
    let holes = r.flat.holes.iter().map(|h| moved(&h.contour)).collect();
    Ok(own_section(&piece.mark, moved(&r.flat.outer), holes, "the flat of a piece of this job"))
}
