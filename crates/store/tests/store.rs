//! Saves, refusals, archives, backups.

use steelk_store::{Save, Store, StoreError, restore};

fn save(document: &str) -> Save<'_> {
    Save { title: "Line", number: "J-1", note: "", document, summary: "{}" }
}

fn fresh() -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("data/steelk.db")).unwrap();
    (folder, store)
}

#[test]
fn every_save_is_a_revision_and_all_stay() {
    let (_f, mut s) = fresh();
    s.create("a", &save("one")).unwrap();
    for (i, d) in ["two", "three"].iter().enumerate() {
        assert_eq!(s.save("a", i as i64 + 1, &save(d)).unwrap(), i as i64 + 2);
    }
    let (row, document) = s.job("a").unwrap();
    assert_eq!((row.revision, document.as_str()), (3, "three"));
    assert_eq!(s.revision("a", 1).unwrap(), "one");
    let (rows, total) = s.revisions("a", 1, 1).unwrap();
    assert_eq!((rows[0].revision, total), (2, 3));
}

#[test]
fn a_stale_save_is_refused_and_changes_nothing() {
    let (_f, mut s) = fresh();
    s.create("a", &save("one")).unwrap();
    s.save("a", 1, &save("two")).unwrap();
    let refused = s.save("a", 1, &save("lost?")).unwrap_err();
    assert!(matches!(refused, StoreError::Stale { based_on: 1, current: 2 }));
    assert_eq!(s.job("a").unwrap().1, "two");
    assert!(matches!(s.save("b", 1, &save("x")), Err(StoreError::NoJob(_))));
    assert!(matches!(s.revision("a", 9), Err(StoreError::NoRevision(9))));
}

#[test]
fn archived_jobs_come_back() {
    let (_f, mut s) = fresh();
    s.create("a", &save("one")).unwrap();
    s.archive("a", true).unwrap();
    assert_eq!(s.jobs(false, 0, 10).unwrap().1, 0);
    assert_eq!(s.jobs(true, 0, 10).unwrap().0[0].id, "a");
    s.archive("a", false).unwrap();
    assert_eq!(s.jobs(false, 0, 10).unwrap().1, 1);
}

#[test]
fn revisions_cannot_be_removed_or_changed() {
    let (f, mut s) = fresh();
    s.create("a", &save("one")).unwrap();
    let db = rusqlite::Connection::open(f.path().join("data/steelk.db")).unwrap();
    assert!(db.execute("DELETE FROM revisions", []).is_err());
    assert!(db.execute("UPDATE revisions SET document = 'x'", []).is_err());
}

#[test]
fn backup_and_restore() {
    let (f, mut s) = fresh();
    let (db, copy) = (f.path().join("data/steelk.db"), f.path().join("copy.db"));
    s.create("a", &save("one")).unwrap();
    s.backup(&copy).unwrap();
    assert!(s.backup(&copy).is_err(), "a backup never overwrites");
    s.save("a", 1, &save("two")).unwrap();
    drop(s);
    let kept = restore(&copy, &db).unwrap().expect("the old data base is kept");
    assert_eq!(Store::open(&db).unwrap().job("a").unwrap().1, "one");
    assert_eq!(Store::open(&kept).unwrap().job("a").unwrap().1, "two");
    std::fs::write(&copy, b"not a data base at all, only text").unwrap();
    assert!(restore(&copy, &db).is_err());
    assert_eq!(Store::open(&db).unwrap().job("a").unwrap().1, "one", "a bad backup changes nothing");
}
