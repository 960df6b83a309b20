//! Whose file it is, damage, backup and restore: nothing is moved before what replaces it is whole.

use std::path::{Path, PathBuf};

use steelk_store::{Contents, Save, Store, StoreError, backup, restore};

fn save(document: &str) -> Save<'_> {
    Save { title: "Line", document, summary: "{}", ..Save::default() }
}

struct Place {
    folder: tempfile::TempDir,
}

impl Place {
    fn new() -> Place {
        Place { folder: tempfile::tempdir().unwrap() }
    }

    fn at(&self, name: &str) -> PathBuf {
        self.folder.path().join(name)
    }

    /// A data base with one job of `revisions`, closed.
    fn filled(&self, name: &str, revisions: i64) -> PathBuf {
        let s = Store::open(&self.at(name)).unwrap();
        s.create("a", &save("1")).unwrap();
        (1..revisions).for_each(|n| drop(s.save("a", n, &save(&format!("{}", n + 1))).unwrap()));
        self.at(name)
    }

    fn names(&self) -> Vec<String> {
        let mut all: Vec<String> = std::fs::read_dir(self.folder.path())
            .unwrap()
            .map(|e| e.unwrap().file_name().into_string().unwrap())
            .collect();
        all.sort();
        all
    }
}

fn newest(path: &Path) -> String {
    Store::open(path).unwrap().job("a").unwrap().1
}

#[test]
fn a_backup_is_whole_new_and_says_what_it_holds() {
    let p = Place::new();
    let db = p.filled("s.db", 3);
    // In use, and with saves that stand only in the log.
    let s = Store::open(&db).unwrap();
    s.save("a", 3, &save("4")).unwrap();
    assert_eq!(backup(&db, &p.at("copy.db")).unwrap(), Contents { jobs: 1, revisions: 4 });
    assert_eq!(newest(&p.at("copy.db")), "4");
    let before = std::fs::read(p.at("copy.db")).unwrap();
    assert!(backup(&db, &p.at("copy.db")).is_err(), "a backup never overwrites");
    assert_eq!(std::fs::read(p.at("copy.db")).unwrap(), before);
    assert!(p.names().iter().all(|n| !n.contains("partial")), "{:?}", p.names());
}

#[test]
fn a_backup_of_a_data_base_that_is_not_there_is_refused_and_makes_none() {
    let p = Place::new();
    assert!(matches!(backup(&p.at("s.db"), &p.at("copy.db")), Err(StoreError::Missing(_))));
    assert!(p.names().is_empty(), "{:?}", p.names());
}

#[test]
fn a_restore_under_a_running_server_is_refused() {
    let p = Place::new();
    let (db, copy) = (p.filled("s.db", 3), p.at("copy.db"));
    backup(&db, &copy).unwrap();
    let s = Store::open(&db).unwrap();
    assert!(matches!(restore(&copy, &db), Err(StoreError::Held(_))));
    assert_eq!(s.save("a", 3, &save("4")).unwrap().revision, 4);
    drop(s);
    assert_eq!(newest(&db), "4");
    restore(&copy, &db).unwrap();
    assert_eq!(newest(&db), "3");
}

/// The copy's newest saves stand in the log beside it, as after a kill: they come along.
#[test]
fn a_restore_takes_the_log_of_the_backup_along() {
    let p = Place::new();
    let db = p.filled("s.db", 1);
    let s = Store::open(&p.at("live.db")).unwrap();
    s.create("a", &save("1")).unwrap();
    (1..30).for_each(|n| drop(s.save("a", n, &save(&format!("{}", n + 1))).unwrap()));
    for tail in ["", "-wal"] {
        std::fs::copy(p.at(&format!("live.db{tail}")), p.at(&format!("from.db{tail}"))).unwrap();
    }
    assert!(std::fs::metadata(p.at("from.db-wal")).unwrap().len() > 0);
    assert_eq!(restore(&p.at("from.db"), &db).unwrap().contents, Contents { jobs: 1, revisions: 30 });
    assert_eq!(newest(&db), "30");
}

#[test]
fn every_restore_keeps_what_stood_there_under_a_name_of_its_own() {
    let p = Place::new();
    let (db, copy) = (p.filled("s.db", 7), p.filled("copy.db", 2));
    let kept: Vec<PathBuf> = (0..3).map(|_| restore(&copy, &db).unwrap().kept.expect("kept")).collect();
    assert_eq!(kept.iter().map(|k| newest(k)).collect::<Vec<_>>(), ["7", "2", "2"]);
    assert_eq!(newest(&db), "2");
}

#[test]
fn a_restore_onto_itself_or_from_what_is_not_ours_changes_nothing() {
    let p = Place::new();
    let db = p.filled("s.db", 3);
    std::fs::write(p.at("text.db"), b"not a data base at all, only text").unwrap();
    std::fs::write(p.at("empty.db"), b"").unwrap();
    let other = rusqlite::Connection::open(p.at("other.db")).unwrap();
    other.execute_batch("CREATE TABLE revisions (x); CREATE TABLE jobs (y);").unwrap();
    let newer = p.filled("newer.db", 1);
    rusqlite::Connection::open(&newer).unwrap().pragma_update(None, "user_version", 99).unwrap();
    let damaged = p.filled("damaged.db", 40);
    harm(&damaged);
    let before = std::fs::read(&db).unwrap();
    for from in ["s.db", "text.db", "empty.db", "other.db", "newer.db", "damaged.db", "none.db"] {
        let said = restore(&p.at(from), &db).expect_err(from).to_string();
        assert!(said.len() > 20, "{said}");
        assert_eq!(std::fs::read(&db).unwrap(), before, "{from}");
    }
    #[cfg(unix)]
    {
        std::os::unix::fs::symlink(&db, p.at("link.db")).unwrap();
        assert!(restore(&p.at("link.db"), &db).is_err(), "the same file by another name");
        assert_eq!(newest(&db), "3");
    }
    assert!(
        p.names().iter().all(|n| !n.contains("partial") && !n.contains("before-restore")),
        "{:?}",
        p.names()
    );
}

/// Overwrites the inside of the file, past its head.
fn harm(path: &Path) {
    let mut bytes = std::fs::read(path).unwrap();
    let n = bytes.len();
    bytes[4096..n].iter_mut().for_each(|b| *b = 0x5a);
    std::fs::write(path, bytes).unwrap();
}

#[test]
fn a_damaged_data_base_is_found_at_start_and_nothing_is_written_into_it() {
    let p = Place::new();
    let db = p.filled("s.db", 40);
    harm(&db);
    let before = std::fs::read(&db).unwrap();
    let s = Store::open(&db).unwrap();
    assert!(s.damage().is_some());
    assert!(matches!(s.create("b", &save("x")), Err(StoreError::Damaged(_))));
    drop(s);
    assert_eq!(std::fs::read(&db).unwrap(), before);
    // A restore puts a sound one in its place and keeps the damaged one as it was.
    let copy = p.filled("copy.db", 2);
    let kept = restore(&copy, &db).unwrap().kept.unwrap();
    assert_eq!(std::fs::read(&kept).unwrap(), before);
    assert_eq!(newest(&db), "2");
}

#[test]
fn the_data_base_of_another_program_is_refused_untouched() {
    let p = Place::new();
    let make =
        |name: &str, sql: &str| rusqlite::Connection::open(p.at(name)).unwrap().execute_batch(sql).unwrap();
    make("tables.db", "CREATE TABLE photos (x); INSERT INTO photos VALUES (1);");
    make("marked.db", "PRAGMA application_id = 77; CREATE TABLE jobs (x);");
    make("wal.db", "PRAGMA journal_mode = WAL; CREATE TABLE revisions (x); PRAGMA user_version = 1;");
    std::fs::write(p.at("text.db"), "only text").unwrap();
    for name in ["tables.db", "marked.db", "wal.db", "text.db"] {
        let before = std::fs::read(p.at(name)).unwrap();
        assert!(matches!(Store::open(&p.at(name)), Err(StoreError::Foreign { .. })), "{name}");
        assert_eq!(std::fs::read(p.at(name)).unwrap(), before, "{name}");
    }
    let newer = p.filled("newer.db", 1);
    rusqlite::Connection::open(&newer).unwrap().pragma_update(None, "user_version", 99).unwrap();
    assert!(matches!(Store::open(&newer), Err(StoreError::Newer { version: 99, .. })));
}

/// A data base of the first schema, which had no mark of its own, is taken and brought up to date.
#[test]
fn a_data_base_of_the_first_schema_is_taken() {
    let p = Place::new();
    let db = p.filled("s.db", 3);
    let old = rusqlite::Connection::open(&db).unwrap();
    old.execute_batch(
        "DROP TABLE files; DROP TABLE pictures; \
        ALTER TABLE revisions DROP COLUMN token; PRAGMA user_version = \
        1; PRAGMA application_id = 0;",
    )
    .unwrap();
    drop(old);
    assert_eq!(backup(&db, &p.at("copy.db")).unwrap().revisions, 3);
    let s = Store::open(&db).unwrap();
    assert_eq!(s.save("a", 3, &save("4")).unwrap().revision, 4);
}

/// A data base from before files were kept is brought up to date; a file is kept once under its digest,
/// cannot
/// be changed or removed, goes along with a backup, and comes back with a restore.
#[test]
fn files_are_kept_and_go_along() {
    let p = Place::new();
    let db = p.filled("s.db", 2);
    let old = rusqlite::Connection::open(&db).unwrap();
    old.execute_batch("DROP TABLE files; PRAGMA user_version = 2;").unwrap();
    drop(old);
    let s = Store::open(&db).unwrap();
    assert_eq!(s.file("d1").unwrap(), None);
    s.keep_file("d1", "png", b"a picture").unwrap();
    s.keep_file("d1", "png", b"a picture").unwrap();
    let picture = Some(("png".to_string(), b"a picture".to_vec()));
    assert_eq!(s.file("d1").unwrap(), picture);
    drop(s);
    let raw = rusqlite::Connection::open(&db).unwrap();
    for act in ["DELETE FROM files", "UPDATE files SET kind = 'pdf'"] {
        assert!(raw.execute(act, []).unwrap_err().to_string().contains("files are never"), "{act}");
    }
    drop(raw);
    backup(&db, &p.at("copy.db")).unwrap();
    let other = p.filled("other.db", 1);
    restore(&p.at("copy.db"), &other).unwrap();
    let back = Store::open(&other).unwrap();
    assert_eq!(back.file("d1").unwrap(), picture);
    assert_eq!(back.save("a", 2, &save("3")).unwrap().revision, 3);
}

#[cfg(unix)]
#[test]
fn a_file_that_was_removed_or_replaced_takes_no_more_saves() {
    for what in ["removed", "replaced", "log removed"] {
        let p = Place::new();
        let (db, copy) = (p.at("s.db"), p.filled("copy.db", 1));
        let s = Store::open(&db).unwrap();
        s.create("a", &save("1")).unwrap();
        s.save("a", 1, &save("2")).unwrap();
        match what {
            "removed" => std::fs::remove_file(&db).unwrap(),
            "replaced" => std::fs::rename(&copy, &db).unwrap(),
            _ => std::fs::remove_file(p.at("s.db-wal")).unwrap(),
        }
        assert!(matches!(s.save("a", 2, &save("3")), Err(StoreError::Gone(_))), "{what}");
        assert!(matches!(s.create("b", &save("1")), Err(StoreError::Gone(_))), "{what}");
    }
}
