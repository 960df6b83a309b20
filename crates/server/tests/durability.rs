//! `kill -9` in the middle of saves loses no save that was acknowledged; the command line does what it says.

mod common;

use std::sync::Arc;
use std::sync::atomic::{AtomicI64, Ordering};

use common::*;
use serde_json::json;

#[test]
fn no_acknowledged_save_is_lost() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("s.db");
    let mut s = start("serve", &data);
    let id = s.post("/api/jobs", &strip_job("40")).1["id"].as_str().unwrap().to_string();
    let path = format!("/api/jobs/{id}");
    let mut known = 1;
    // A thousand saves, the server killed without warning five times on the way.
    for round in 1..=5 {
        let acknowledged = Arc::new(AtomicI64::new(known));
        let goal = 1 + 200 * round;
        let saver = {
            let (agent, url, acknowledged) = (s.agent.clone(), s.url(&path), acknowledged.clone());
            std::thread::spawn(move || {
                for n in known..1 + 1000 {
                    let leg = format!("{}", 40 + n);
                    match agent.put(&url).header("If-Match", format!("\"{n}\"")).send_json(json!({ "job": strip_job(&leg) })) {
                        Ok(r) if r.status().as_u16() == 200 => acknowledged.store(n + 1, Ordering::SeqCst),
                        _ => return,
                    }
                }
            })
        };
        while acknowledged.load(Ordering::SeqCst) < goal.min(1000) && !saver.is_finished() {
            std::thread::sleep(std::time::Duration::from_millis(1));
        }
        s.child.kill().unwrap(); // SIGKILL
        s.child.wait().unwrap();
        saver.join().unwrap();
        let told = acknowledged.load(Ordering::SeqCst);
        s = start("serve", &data);
        let opened = s.get(&path).1;
        let found = opened["revision"].as_i64().unwrap();
        // The save in flight may have reached the disk without its answer; nothing acknowledged may be missing.
        assert!(found == told || found == told + 1, "acknowledged {told}, found {found}");
        assert_eq!(opened["job"]["pieces"][0]["lines"][0]["say"]["profile"][0]["length"], format!("{}", 40 + found - 1));
        assert_eq!(s.get(&format!("{path}/revisions?limit=1")).1["total"].as_i64(), Some(found));
        known = found;
    }
    assert!(known >= 1000, "{known}");
}

#[test]
fn the_command_line_tells_by_its_exit_code() {
    let folder = tempfile::tempdir().unwrap();
    let at = |name: &str| folder.path().join(name).to_str().unwrap().to_string();
    let write = |name: &str, text: &str| {
        std::fs::write(at(name), text).unwrap();
        at(name)
    };
    let good = write("good.steelk.json", &strip_job("40").to_string());
    let (code, out, _) = steelk(&["evaluate", &good]);
    assert!(code == 0 && out.contains("96.2 mm"), "{out}");
    let (code, out, _) = steelk(&["--json", "evaluate", &good]);
    let json: serde_json::Value = serde_json::from_str(&out).unwrap();
    assert!(code == 0 && json["pieces"][0]["made"] == true);
    let stop = write("stop.steelk.json", &strip_job("2").to_string());
    let (code, out, _) = steelk(&["check", &stop]);
    assert!(code == 1 && out.contains("too short for its bends"), "{out}");
    let (code, _, err) = steelk(&["check", &write("bad.json", "{\"format\": 1}")]);
    assert!(code == 2 && err.contains("title"), "{err}");
    let dxf = at("o.dxf");
    assert_eq!(steelk(&["export", &good, "--part", "P-1", "--as", "dxf", "-o", &dxf]).0, 0);
    assert!(std::fs::read_to_string(&dxf).unwrap().contains("BEND_UP"));
    assert_eq!(steelk(&["export", &good, "--part", "P-9", "--as", "dxf"]).0, 2);
    let (code, _, err) = steelk(&["serve", "--bind", "0.0.0.0", "--data", &at("x.db")]);
    assert!(code == 2 && err.contains("access key"), "{err}");
}

#[test]
fn backups_are_made_while_the_server_runs() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("s.db");
    let at = |name: &str| folder.path().join(name).to_str().unwrap().to_string();
    let s = start("demo", &data);
    assert_eq!(steelk(&["backup", "--data", &at("s.db"), &at("copy.db")]).0, 0);
    s.post("/api/jobs", &strip_job("40"));
    assert_eq!(s.get("/api/jobs").1["total"], 2);
    let (code, _, err) = steelk(&["restore", "--data", &at("s.db"), &at("copy.db")]);
    assert!(code == 2 && err.contains("in use by a server"), "{err}");
    drop(s);
    assert_eq!(steelk(&["backup", "--data", &at("none.db"), &at("other.db")]).0, 2, "a backup of nothing is none");
    let (code, _, err) = steelk(&["restore", "--data", &at("s.db"), &at("copy.db")]);
    assert!(code == 0 && err.contains("kept as"), "{err}");
    let s = start("serve", &data);
    assert_eq!(s.get("/api/jobs").1["total"], 1);
}
