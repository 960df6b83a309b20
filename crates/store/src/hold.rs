//! A server holds its data base: a lock that a restore respects, and the knowledge of which file it opened.

use std::fs::File;
use std::path::{Path, PathBuf};
use std::sync::Mutex;

use crate::error::{StoreError, file};
use crate::identify::beside;

/// The same file under one name, whatever links lead to it.
pub(crate) fn settled(path: &Path) -> PathBuf {
    if let Ok(p) = path.canonicalize() {
        return p;
    }
    let folder = path.parent().filter(|f| !f.as_os_str().is_empty()).unwrap_or(Path::new("."));
    match (folder.canonicalize(), path.file_name()) {
        (Ok(f), Some(name)) => f.join(name),
        _ => path.into(),
    }
}

fn lock_file(path: &Path) -> Result<File, StoreError> {
    let at = beside(path, ".lock");
    File::options().create(true).truncate(false).write(true).open(&at).map_err(file(&at))
}

/// Servers share it; it falls with the process.
pub(crate) fn share(path: &Path) -> Result<File, StoreError> {
    let lock = lock_file(path)?;
    match lock.try_lock_shared() {
        Ok(()) => Ok(lock),
        Err(std::fs::TryLockError::WouldBlock) => Err(StoreError::File {
            path: path.into(),
            why: "a restore is at work on it; start again when it is done".into(),
        }),
        Err(std::fs::TryLockError::Error(e)) => Err(file(path)(e)),
    }
}

/// Nobody else has it.
pub(crate) fn alone(path: &Path) -> Result<File, StoreError> {
    let lock = lock_file(path)?;
    match lock.try_lock() {
        Ok(()) => Ok(lock),
        Err(std::fs::TryLockError::WouldBlock) => Err(StoreError::Held(path.into())),
        Err(std::fs::TryLockError::Error(e)) => Err(file(path)(e)),
    }
}

/// Device and number of a file.
type Identity = (u64, u64);

#[cfg(unix)]
fn identity(path: &Path) -> Option<Identity> {
    use std::os::unix::fs::MetadataExt;
    std::fs::metadata(path).ok().map(|m| (m.dev(), m.ino()))
}

#[cfg(not(unix))]
fn identity(path: &Path) -> Option<Identity> {
    path.exists().then_some((0, 0))
}

/// The files that were opened. A name that leads elsewhere later means that saves would go into a file nobody
/// can find.
pub(crate) struct Opened {
    path: PathBuf,
    main: Option<Identity>,
    log: Mutex<Option<Identity>>,
}

impl Opened {
    pub fn new(path: &Path) -> Opened {
        Opened { path: path.into(), main: identity(path), log: Mutex::new(None) }
    }

    /// Whether both files are still the ones that were opened.
    pub fn stands(&self) -> Result<(), StoreError> {
        let gone = || StoreError::Gone(self.path.clone());
        if self.main.is_none() || identity(&self.path) != self.main {
            return Err(gone());
        }
        let now = identity(&beside(&self.path, "-wal"));
        let mut known = self.log.lock().unwrap_or_else(|e| e.into_inner());
        match *known {
            Some(_) if *known != now => return Err(gone()),
            _ => *known = now,
        }
        Ok(())
    }
}
