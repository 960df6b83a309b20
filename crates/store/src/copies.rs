//! Backup and restore. SQLite's own copying takes the log along; a copy is checked whole before it gets a
//! name that counts.

use std::fs::File;
use std::path::{Path, PathBuf};
use std::time::Duration;

use rusqlite::Connection;
use rusqlite::backup::Backup;

use crate::error::{StoreError, file};
use crate::hold::{alone, settled};
use crate::identify::{Found, beside, identify, open_to_read};
use crate::now;

/// What a copy holds.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Contents {
    pub jobs: i64,
    pub revisions: i64,
}

/// What a restore did.
#[derive(Debug)]
pub struct Restored {
    /// Where what stood there is kept.
    pub kept: Option<PathBuf>,
    pub contents: Contents,
}

/// A file of our own that is removed again unless it is put in place.
struct Partial(PathBuf);

impl Drop for Partial {
    fn drop(&mut self) {
        for tail in ["", "-wal", "-shm", "-journal"] {
            std::fs::remove_file(beside(&self.0, tail)).ok();
        }
    }
}

fn partial(to: &Path) -> Result<Partial, StoreError> {
    for n in 0..1000 {
        let at = beside(to, &format!(".partial-{}-{n}", std::process::id()));
        match File::create_new(&at) {
            Ok(_) => return Ok(Partial(at)),
            Err(e) if e.kind() == std::io::ErrorKind::AlreadyExists => {}
            Err(e) => return Err(file(&at)(e)),
        }
    }
    Err(StoreError::File {
        path: to.into(),
        why: "too many unfinished copies stand beside it; remove the files '.partial-…'".into(),
    })
}

fn ours(path: &Path) -> Result<(), StoreError> {
    match identify(path)? {
        Found::Ours(_) => Ok(()),
        Found::Nothing => Err(StoreError::Missing(path.into())),
    }
}

/// A whole copy of `from`, its log included, in a new file near `to`, checked and on the disk.
fn whole_copy(from: &Path, to: &Path) -> Result<(Partial, Contents), StoreError> {
    let made = partial(to)?;
    let source = open_to_read(from)?;
    source.busy_timeout(Duration::from_secs(10))?;
    let mut copy = Connection::open(&made.0)?;
    Backup::new(&source, &mut copy)?.run_to_completion(i32::MAX, Duration::from_millis(50), None)?;
    // One file is the whole.
    copy.query_row("PRAGMA journal_mode = DELETE", [], |_| Ok(()))?;
    let sound: String = copy.query_row("PRAGMA integrity_check", [], |r| r.get(0))?;
    if sound != "ok" {
        return Err(StoreError::Damaged(format!("{}: {sound}", from.display())));
    }
    let count = |table: &str| copy.query_row(&format!("SELECT count(*) FROM {table}"), [], |r| r.get(0));
    let contents = Contents { jobs: count("jobs")?, revisions: count("revisions")? };
    drop(copy);
    File::options().write(true).open(&made.0).and_then(|f| f.sync_all()).map_err(file(&made.0))?;
    Ok((made, contents))
}

/// Gives a file a second name that was free; false where it was taken.
fn second_name(from: &Path, to: &Path) -> Result<bool, StoreError> {
    match std::fs::hard_link(from, to) {
        Ok(()) => Ok(true),
        Err(e) if e.kind() == std::io::ErrorKind::AlreadyExists => Ok(false),
        // A file system without second names: a copy, made new.
        Err(_) => {
            let mut new = match File::create_new(to) {
                Ok(f) => f,
                Err(e) if e.kind() == std::io::ErrorKind::AlreadyExists => return Ok(false),
                Err(e) => return Err(file(to)(e)),
            };
            let copied = File::open(from)
                .and_then(|mut f| std::io::copy(&mut f, &mut new))
                .and_then(|_| new.sync_all());
            copied.map(|()| true).map_err(|e| {
                std::fs::remove_file(to).ok();
                file(to)(e)
            })
        }
    }
}

fn sync_folder(path: &Path) {
    if let Some(folder) = path.parent() {
        File::open(folder).and_then(|f| f.sync_all()).ok();
    }
}

/// Copies the data base at `from` into the new file `to`, while a server may be using it.
pub fn backup(from: &Path, to: &Path) -> Result<Contents, StoreError> {
    let taken = || StoreError::File { path: to.into(), why: "already exists; name a new file".into() };
    ours(from)?;
    if to.exists() {
        return Err(taken());
    }
    let (made, contents) = whole_copy(from, to)?;
    if !second_name(&made.0, to)? {
        return Err(taken());
    }
    sync_folder(to);
    Ok(contents)
}

/// Puts a copy of `from` in the place of the data base at `path`. Refused while a server holds either; what
/// stood there is kept beside it.
pub fn restore(from: &Path, path: &Path) -> Result<Restored, StoreError> {
    let (from, path) = (settled(from), settled(path));
    ours(&from)?;
    if from == path {
        return Err(StoreError::File {
            path,
            why: "is the data base itself; name the backup to bring back".into(),
        });
    }
    if let Some(folder) = path.parent() {
        std::fs::create_dir_all(folder).map_err(file(folder))?;
    }
    let _lock = alone(&path)?;
    let (made, contents) = whole_copy(&from, &path)?;
    // From here on the new file is whole; the old one gets its second name before it loses its first.
    let kept = if path.exists() { Some(keep(&path)?) } else { None };
    for tail in ["-wal", "-shm"] {
        std::fs::remove_file(beside(&path, tail)).ok();
    }
    std::fs::rename(&made.0, &path).map_err(file(&path))?;
    sync_folder(&path);
    Ok(Restored { kept, contents })
}

/// A second name, never used before, for what stands at `path`, with its log where that cannot be folded in.
fn keep(path: &Path) -> Result<PathBuf, StoreError> {
    if identify(path).is_ok() {
        // A damaged file cannot be folded; it is kept as it is.
        let fold = |db: Connection| db.query_row("PRAGMA wal_checkpoint(TRUNCATE)", [], |_| Ok(()));
        Connection::open(path).and_then(fold).ok();
    }
    for n in 0..1000 {
        let more = if n == 0 { String::new() } else { format!("-{n}") };
        let aside = path.with_extension(format!("before-restore-{}{more}.db", now()));
        // A log without its data base would be read into another: the log gets its name first.
        let log = beside(path, "-wal");
        let with_log = log.metadata().is_ok_and(|m| m.len() > 0);
        if aside.exists() || (with_log && !second_name(&log, &beside(&aside, "-wal"))?) {
            continue;
        }
        if second_name(path, &aside)? {
            sync_folder(path);
            return Ok(aside);
        }
        if with_log {
            std::fs::remove_file(beside(&aside, "-wal")).ok();
        }
    }
    Err(StoreError::File { path: path.into(), why: "no free name to keep it under".into() })
}
