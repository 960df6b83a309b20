//! The command line: what the web does, for scripts. Exit code 0 done, 1 findings of severity stop, 2 bad
//! input.

use std::io::Write;
use std::path::{Path, PathBuf};
use std::process::ExitCode;

use clap::{Parser, Subcommand};
use steelk_core::drawing::Paper;
use steelk_core::evaluate::cut_list;
use steelk_core::evaluate::evaluate;
use steelk_core::grammar::TextFault;
use steelk_core::job::text::{print_brief, print_frame, print_job, print_piece, read_job};
use steelk_core::job::{Assume, CLOSES, DrawingOptions, Job};
use steelk_core::quantity::{LengthUnit, counted};
use steelk_core::result::{JobResult, Severity};
use steelk_formats::jobfile;

use crate::bring::bring;
use crate::kinds::{self, Subject};
use crate::serve::{Serve, serve};
use crate::{api, archive, files, manual};

#[derive(Parser)]
#[command(
    name = "steelk",
    version,
    about = "Sheet metal and plate pieces from recipes: flat patterns, cut files, cut lists"
)]
struct Cli {
    /// Answer in JSON.
    #[arg(long, global = true)]
    json: bool,
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Start the server.
    Serve(Serve),
    /// Start the server with the sample job on an empty rack.
    Demo(Serve),
    /// Figures of every piece of a job file.
    Evaluate { file: PathBuf },
    /// Findings and faults of a job file.
    Check { file: PathBuf },
    /// Print a job, or one piece, frame or brief of it, as text; such a text (in a `.txt`) is read wherever
    /// a job file is.
    Say {
        file: PathBuf,
        /// Mark or id of a piece or frame.
        #[arg(long, default_value = "")]
        part: String,
    },
    /// Write a file of a piece, a frame or the job.
    #[command(after_help = format!("Kinds: {}.", kinds::all_said()))]
    Export {
        file: PathBuf,
        /// Mark or id of the frame; the first where none is named.
        #[arg(long, default_value = "")]
        frame: String,
        /// Mark or id of the piece; the number of a cope for wrap, the name of a member for
        /// bar-step and tube-dxf.
        #[arg(long, default_value = "")]
        part: String,
        #[arg(long = "as")]
        kind: String,
        /// A4, A3, Letter or Tabloid, for papers and templates.
        #[arg(long, default_value = "A4")]
        paper: String,
        /// One of the job's printers: the template is drawn so that it prints true there.
        #[arg(long, default_value = "")]
        printer: String,
        /// Where to write; standard output when left out.
        #[arg(short, long)]
        output: Option<PathBuf>,
    },
    /// A job file from a DXF or an SVG: every part a piece; what was mended and what was left out goes to
    /// standard error.
    Import {
        file: PathBuf,
        /// Unit of the job: mm or in; the file's own where none is given.
        #[arg(long, value_parser = unit)]
        unit: Option<LengthUnit>,
        /// Unit of a file that names none: mm, in, px (96 to the inch) or pt (72 to the inch).
        #[arg(long, value_parser = assume)]
        assume: Option<Assume>,
        /// Gaps up to so many mm are closed.
        #[arg(long, default_value_t = CLOSES)]
        closes: f64,
        /// Where to write; standard output when left out.
        #[arg(short, long)]
        output: Option<PathBuf>,
    },
    /// Copy the data base while it is in use.
    Backup {
        #[arg(long, default_value = "data/steelk.db")]
        data: PathBuf,
        to: PathBuf,
    },
    /// Put a backup in the place of the data base (with the server stopped); what stood there is kept beside
    /// it.
    Restore {
        #[arg(long, default_value = "data/steelk.db")]
        data: PathBuf,
        from: PathBuf,
    },
    /// Print the OpenAPI description.
    Openapi,
    /// Print the JSON Schema of the job file.
    Schema,
    /// Print the manual of what can be said, in Markdown.
    Verbs,
}

const BAD_INPUT: u8 = 2;
const STOPS: u8 = 1;

pub fn run() -> ExitCode {
    let cli = match Cli::try_parse() {
        Ok(cli) => cli,
        Err(e) if e.use_stderr() && std::env::args().any(|a| a == "--json") => {
            let said = e.to_string();
            let error = said.trim_start_matches("error: ").lines().next().unwrap_or_default();
            println!("{}", serde_json::json!({ "error": error, "usage": said }));
            return ExitCode::from(BAD_INPUT);
        }
        // Prints to where it belongs; help is no error.
        Err(e) => e.exit(),
    };
    match carry_out(cli.command, cli.json) {
        Ok(code) => code,
        Err(message) => {
            if cli.json {
                println!("{}", serde_json::json!({ "error": message }));
            }
            eprintln!("steelk: {message}");
            ExitCode::from(BAD_INPUT)
        }
    }
}

fn carry_out(command: Command, json: bool) -> Result<ExitCode, String> {
    match command {
        Command::Serve(s) => serve(s, false),
        Command::Demo(s) => serve(s, true),
        Command::Evaluate { file } => {
            let (job, result) = read(&file)?;
            out(&if json {
                serde_json::to_string_pretty(&figures_json(&result)).map_err(|e| e.to_string())?
            } else {
                figures_text(&job, &result)
            })?;
            Ok(verdict(&result))
        }
        Command::Check { file } => {
            let (_, result) = read(&file)?;
            out(&if json {
                serde_json::to_string_pretty(&findings_json(&result)).map_err(|e| e.to_string())?
            } else {
                findings_text(&result)
            })?;
            Ok(verdict(&result))
        }
        Command::Say { file, part } => {
            let bytes = std::fs::read(&file).map_err(|e| format!("{}: {e}", file.display()))?;
            let job = job_of(&file, &bytes)?;
            let piece =
                job.pieces.iter().find(|p| p.id == part || p.mark == part).map(|p| print_piece(p, true));
            let frame =
                || job.frames.iter().find(|f| f.id == part || f.mark == part).map(|f| print_frame(f, true));
            let brief =
                || job.briefs.iter().find(|b| b.id == part || b.mark == part).map(|b| print_brief(b, true));
            let text =
                if part.is_empty() { Some(print_job(&job)) } else { piece.or_else(frame).or_else(brief) };
            out(text.ok_or_else(|| format!("the job has no piece, frame or brief '{part}'"))?.trim_end())?;
            Ok(ExitCode::SUCCESS)
        }
        Command::Export { file, frame, part, kind, paper, printer, output } => {
            let (job, result) = read(&file)?;
            let paper = Paper::named(&paper)
                .ok_or_else(|| format!("no paper is called '{paper}'; give A4, A3, Letter or Tabloid"))?;
            let made = archive::make(
                &job,
                &result,
                &kind,
                files::Of {
                    piece: &part,
                    frame: &frame,
                    paper,
                    printer: &printer,
                    saved_at: 0,
                    revision: 0,
                    // Kept by a server, beside its jobs: the drawing says that it is not at hand.
                    mark: None,
                },
            )
            .map_err(|e| e.to_string())?;
            put(output.as_deref(), &made.bytes)?;
            let stops = stopped(&result, &kind, &part, &frame);
            for said in &stops {
                eprintln!("steelk: {said} cannot be made as it stands: see `steelk check`");
            }
            Ok(if stops.is_empty() { ExitCode::SUCCESS } else { ExitCode::from(STOPS) })
        }
        Command::Import { file, unit, assume, closes, output } => {
            let options = DrawingOptions { assume, closes, ..DrawingOptions::default() };
            let brought = bring(&file, unit, &options)?;
            put(output.as_deref(), &jobfile::write(&brought.job))?;
            for said in brought.told {
                eprintln!("steelk: {said}");
            }
            Ok(ExitCode::SUCCESS)
        }
        Command::Backup { data, to } => {
            let held = steelk_store::backup(&data, &to).map_err(|e| e.to_string())?;
            out(&format!("{}: {} jobs, {} revisions\n", to.display(), held.jobs, held.revisions))?;
            Ok(ExitCode::SUCCESS)
        }
        Command::Restore { data, from } => {
            let done = steelk_store::restore(&from, &data).map_err(|e| e.to_string())?;
            if let Some(kept) = done.kept {
                eprintln!("what stood there is kept as {}", kept.display());
            }
            out(&format!(
                "{}: {} jobs, {} revisions\n",
                data.display(),
                done.contents.jobs,
                done.contents.revisions
            ))?;
            Ok(ExitCode::SUCCESS)
        }
        Command::Openapi => out(&api::description::openapi()).map(|()| ExitCode::SUCCESS),
        Command::Verbs => {
            out(&manual::verbs())?;
            Ok(ExitCode::SUCCESS)
        }
        Command::Schema => out(&(serde_json::to_string_pretty(&api::description::job_schema())
            .map_err(|e| e.to_string())?
            + "\n"))
        .map(|()| ExitCode::SUCCESS),
    }
}

fn unit(said: &str) -> Result<LengthUnit, String> {
    [LengthUnit::Mm, LengthUnit::In]
        .into_iter()
        .find(|u| u.sign() == said)
        .ok_or_else(|| "give mm or in".into())
}

fn assume(said: &str) -> Result<Assume, String> {
    [Assume::Mm, Assume::In, Assume::Px, Assume::Pt]
        .into_iter()
        .find(|u| u.sign() == said)
        .ok_or_else(|| "give mm, in, px or pt".into())
}

/// Into a file, or to standard output.
fn put(path: Option<&Path>, bytes: &[u8]) -> Result<(), String> {
    match path {
        Some(path) => std::fs::write(path, bytes).map_err(|e| format!("{}: {e}", path.display())),
        None => std::io::stdout().write_all(bytes).map_err(|e| e.to_string()),
    }
}

fn out(text: &str) -> Result<(), String> {
    std::io::stdout().write_all(text.as_bytes()).map_err(|e| e.to_string())
}

fn read(file: &Path) -> Result<(Job, JobResult), String> {
    let bytes = std::fs::read(file).map_err(|e| format!("{}: {e}", file.display()))?;
    let job = job_of(file, &bytes)?;
    let result = evaluate(&job);
    Ok((job, result))
}

/// A job file, or a job as text where the file is called so.
fn job_of(file: &Path, bytes: &[u8]) -> Result<Job, String> {
    if file.extension().is_none_or(|e| !e.eq_ignore_ascii_case("txt")) {
        return jobfile::read(bytes).map_err(|e| format!("{}: {e}", file.display()));
    }
    let text =
        std::str::from_utf8(bytes).map_err(|_| format!("{}: the text is not UTF-8", file.display()))?;
    let (job, faults) = read_job(text);
    let said = |f: &TextFault| {
        format!("{}:{}:{}: {} ({})", file.display(), f.line, f.fault.start + 1, f.fault.message, f.fault.mend)
    };
    if faults.is_empty() { Ok(job) } else { Err(faults.iter().map(said).collect::<Vec<_>>().join("\n")) }
}

/// What a file is of that has something to stop for: one piece, one frame, or the whole job for its lists.
fn stopped(result: &JobResult, kind: &str, part: &str, frame: &str) -> Vec<String> {
    let subject = kinds::subject(kind);
    let (of_piece, of_frame) = (subject == Some(Subject::Piece), subject == Some(Subject::Frame));
    let pieces = result
        .sheets()
        .filter(|p| p.stops() > 0 && !of_frame && (!of_piece || p.id == part || p.mark == part))
        .map(|p| p.mark.clone());
    let asked = |f: &&std::sync::Arc<steelk_core::frame::FrameResult>| {
        frame.is_empty() || f.id == frame || f.mark == frame
    };
    let first = result.frames.iter().find(asked).map(|f| f.id.clone());
    let frames = result
        .frames
        .iter()
        .filter(|f| f.stops() > 0 && !of_piece && (!of_frame || Some(&f.id) == first.as_ref()))
        .map(|f| f.mark.clone());
    let job = if of_piece || of_frame { 0 } else { faults_of_job(result) };
    pieces.chain(frames).chain((job > 0).then(|| "something in the job's own settings".to_string())).collect()
}

/// Faults of the job's settings and figures.
fn faults_of_job(result: &JobResult) -> usize {
    result.faults.len() + result.figures.iter().filter(|f| f.fault.is_some()).count()
}

fn verdict(result: &JobResult) -> ExitCode {
    let stops = faults_of_job(result)
        + result.briefs.iter().map(|b| b.faults.len() + b.broken().count()).sum::<usize>()
        + result.pieces.iter().map(|p| p.stops()).sum::<usize>()
        + result.frames.iter().map(|f| f.stops()).sum::<usize>();
    if stops > 0 { ExitCode::from(STOPS) } else { ExitCode::SUCCESS }
}

fn figures_json(result: &JobResult) -> serde_json::Value {
    let pieces = result.pieces.iter().map(|p| {
        serde_json::json!({ "id": p.id, "mark": p.mark, "made": p.made, "thickness": p.thickness,
            "figures": p.figures, "faults": p.faults, "findings": p.findings })
    });
    let frames = result.frames.iter().map(|f| {
        serde_json::json!({ "id": f.id, "mark": f.mark, "made": f.made, "figures": f.figures,
            "faults": f.faults, "findings": f.findings })
    });
    serde_json::json!({ "figures": result.figures, "faults": result.faults,
        "pieces": pieces.collect::<Vec<_>>(), "frames": frames.collect::<Vec<_>>() })
}

fn figures_text(job: &Job, result: &JobResult) -> String {
    let mut text = format!("{} {}\n", job.number, job.title);
    for p in &result.pieces {
        text +=
            &format!("\n{}  {}  ×{}  {} {}\n", p.mark, p.name, p.quantity, p.material, p.thickness_said());
        for f in p.figures.iter().filter(|f| f.main) {
            text += &format!("  {:<16} {}\n", f.label, f.text);
        }
    }
    for f in &result.frames {
        text += &format!("\n{}  {}  ×{}  {} members\n", f.mark, f.name, f.quantity, f.members.len());
        for f in f.figures.iter().filter(|f| f.main) {
            text += &format!("  {:<16} {}\n", f.label, f.text);
        }
    }
    let list = cut_list(job, result);
    text + &format!("\n{}, {} {}\n", counted(list.pieces, "piece"), list.total_mass, list.mass_unit)
}

fn findings_json(result: &JobResult) -> serde_json::Value {
    let pieces = result.pieces.iter().map(
        |p| serde_json::json!({ "id": p.id, "mark": p.mark, "faults": p.faults, "findings": p.findings }),
    );
    let frames = result.frames.iter().map(
        |f| serde_json::json!({ "id": f.id, "mark": f.mark, "faults": f.faults, "findings": f.findings }),
    );
    let briefs = result.briefs.iter().map(|b| {
        serde_json::json!({ "id": b.id, "mark": b.mark, "tally": b.tally, "faults": b.faults,
            "checks": b.checks })
    });
    let figures: Vec<_> = result.figures.iter().filter(|f| f.fault.is_some()).collect();
    serde_json::json!({ "figures": figures, "faults": result.faults, "pieces": pieces.collect::<Vec<_>>(),
        "frames": frames.collect::<Vec<_>>(), "briefs": briefs.collect::<Vec<_>>() })
}

fn findings_text(result: &JobResult) -> String {
    let mut text = String::new();
    for (f, fault) in result.figures.iter().filter_map(|f| Some((f, f.fault.as_ref()?))) {
        text += &format!("job  stop  figure {}: {} ({})\n", f.name, fault.message, fault.mend);
    }
    for f in &result.faults {
        text += &format!("job  stop  {}: {} ({})\n", f.path, f.fault.message, f.fault.mend);
    }
    let pieces = result.pieces.iter().map(|p| (&p.mark, &p.faults, &p.findings));
    let frames = result.frames.iter().map(|f| (&f.mark, &f.faults, &f.findings));
    for (mark, faults, findings) in pieces.chain(frames) {
        for f in faults {
            text += &format!("{mark}  stop  {} {}: {} ({})\n", f.line, f.path, f.fault.message, f.fault.mend);
        }
        for f in findings {
            let severity = match f.severity {
                Severity::Stop => "stop",
                Severity::Warn => "warn",
                Severity::Note => "note",
            };
            let mend = f.mend.as_ref().map_or(String::new(), |m| format!("; mend: {}", m.label));
            text += &format!("{mark}  {severity}  {} [{}, {}]{mend}\n", f.message, f.rule, f.source);
        }
    }
    for b in &result.briefs {
        for f in &b.faults {
            text +=
                &format!("{}  stop  {} {}: {} ({})\n", b.mark, f.line, f.path, f.fault.message, f.fault.mend);
        }
        for c in b.broken() {
            text += &format!("{}  stop  {} {}: {}\n", b.mark, c.line, c.figure, c.said);
        }
        let t = b.tally;
        if t.untied > 0 {
            text += &format!("{}  note  {} of {} figures are not tied\n", b.mark, t.untied, t.all);
        }
    }
    if text.is_empty() { "nothing found\n".into() } else { text }
}
