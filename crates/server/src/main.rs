//! `steelk`: the server and the command line.

mod api;
mod archive;
mod assets;
mod brief_view;
mod bring;
mod cache;
mod cli;
mod demo;
mod desk;
mod drawing_view;
mod files;
mod frame_files;
mod frame_view;
mod guard;
mod kinds;
mod line;
mod manual;
mod packed;
mod paperwork;
mod pictures;
mod piece_files;
mod problem;
mod revised;
mod serve;
mod summary;
mod thumbs;
mod ticket;
mod view;
mod weight;

fn main() -> std::process::ExitCode {
    // A log that cannot be written is no reason to fail: the terminal may be gone.
    tracing_subscriber::fmt()
        .with_writer(std::io::stderr)
        .log_internal_errors(false)
        .with_max_level(tracing::Level::INFO)
        .init();
    cli::run()
}
