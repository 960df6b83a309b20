//! A server of our own on a free port, ended with the test.
#![allow(dead_code)]

use std::net::TcpListener;
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

use serde_json::Value;

pub struct Server {
    pub child: Child,
    pub port: u16,
    pub agent: ureq::Agent,
}

impl Drop for Server {
    fn drop(&mut self) {
        self.child.kill().ok();
        self.child.wait().ok();
    }
}

pub fn agent() -> ureq::Agent {
    ureq::Agent::config_builder()
        .http_status_as_error(false)
        .timeout_global(Some(Duration::from_secs(60)))
        .build()
        .into()
}

pub fn start(command: &str, data: &Path) -> Server {
    started(command, data, Stdio::null())
}

pub fn start_logged(command: &str, data: &Path, log: &Path) -> Server {
    started(command, data, std::fs::File::create(log).unwrap().into())
}

fn started(command: &str, data: &Path, log: Stdio) -> Server {
    let port = TcpListener::bind("127.0.0.1:0").unwrap().local_addr().unwrap().port();
    let child = Command::new(env!("CARGO_BIN_EXE_steelk"))
        .args([command, "--port", &port.to_string(), "--data"])
        .arg(data)
        .stdout(Stdio::null())
        .stderr(log)
        .spawn()
        .unwrap();
    let server = Server { child, port, agent: agent() };
    let begun = Instant::now();
    while server.agent.get(server.url("/api/health")).call().is_err() {
        assert!(begun.elapsed() < Duration::from_secs(30), "the server did not start");
        std::thread::sleep(Duration::from_millis(20));
    }
    server
}

impl Server {
    pub fn url(&self, path: &str) -> String {
        format!("http://127.0.0.1:{}{path}", self.port)
    }

    pub fn get(&self, path: &str) -> (u16, Value) {
        let mut r = self.agent.get(self.url(path)).call().unwrap();
        (r.status().as_u16(), r.body_mut().read_json().unwrap_or(Value::Null))
    }

    pub fn bytes(&self, path: &str) -> (String, Vec<u8>) {
        let mut r = self.agent.get(self.url(path)).call().unwrap();
        let name =
            r.headers().get("content-disposition").map_or(String::new(), |v| v.to_str().unwrap().to_string());
        (name, r.body_mut().read_to_vec().unwrap())
    }

    pub fn post(&self, path: &str, body: &Value) -> (u16, Value) {
        let mut r = self.agent.post(self.url(path)).send_json(body).unwrap();
        (r.status().as_u16(), r.body_mut().read_json().unwrap_or(Value::Null))
    }

    pub fn put(&self, path: &str, revision: i64, body: &Value) -> Result<(u16, Value), ureq::Error> {
        let mut r =
            self.agent.put(self.url(path)).header("If-Match", format!("\"{revision}\"")).send_json(body)?;
        Ok((r.status().as_u16(), r.body_mut().read_json().unwrap_or(Value::Null)))
    }
}

/// A job with one strip whose first leg has this length.
pub fn strip_job(leg: &str) -> Value {
    serde_json::json!({
        "format": 1, "title": "test line", "number": "J-1",
        "pieces": [{ "id": "a", "mark": "P-1", "name": "angle", "quantity": "2", "material": "s235",
            "thickness": "2", "radius": "2",
            "lines": [{ "id": "start-1", "say": { "verb": "start_strip", "width": "30", "profile": [
                { "kind": "leg", "id": "a", "length": leg }, { "kind": "bend", "id": "1", "angle": "90" },
                    { "kind": "leg", "id": "b", "length": "60" }] } }] }]
    })
}

/// The command line: exit code, standard output, standard error.
pub fn steelk(args: &[&str]) -> (i32, String, String) {
    let out =
        Command::new(env!("CARGO_BIN_EXE_steelk")).args(args).env_remove("STEELK_KEY").output().unwrap();
    (
        out.status.code().unwrap(),
        String::from_utf8_lossy(&out.stdout).into(),
        String::from_utf8_lossy(&out.stderr).into(),
    )
}

/// Points of a packed list: little-endian 32 bit floats in base64, x and y in turn.
#[allow(dead_code)]
pub fn points(packed: &Value) -> Vec<[f32; 2]> {
    use base64::Engine;
    let raw = base64::prelude::BASE64_STANDARD.decode(packed.as_str().unwrap()).unwrap();
    raw.chunks_exact(8)
        .map(|c| {
            [f32::from_le_bytes(c[..4].try_into().unwrap()), f32::from_le_bytes(c[4..].try_into().unwrap())]
        })
        .collect()
}
