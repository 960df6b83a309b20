//! Who may speak to the server: own Host and Origin only, an access key where it listens beyond this machine,
//! strict headers on every answer, and a problem document wherever an answer is not a success.

use std::collections::HashMap;
use std::net::IpAddr;
use std::sync::{Arc, Mutex};
use std::time::{Duration, Instant};

use actix_web::body::{BoxBody, EitherBody, MessageBody};
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::header::{self, HeaderName, HeaderValue};
use actix_web::http::{Method, StatusCode};
use actix_web::middleware::Next;
use actix_web::{Error, HttpResponse, ResponseError, web};
use base64::Engine;

use crate::problem::{Problem, problem};

/// What the server was told when it started.
#[derive(Clone)]
pub struct Access {
    pub port: u16,
    /// The address it listens on.
    pub bind: String,
    /// Asked of every request when set.
    pub key: Option<Key>,
    pub guesses: Arc<Guesses>,
}

/// An access key: trimmed alike where it is set and where it is given.
#[derive(Clone, PartialEq, Eq)]
pub struct Key(String);

/// Characters that a key must have.
pub const KEY_LENGTH: usize = 12;

impl Key {
    pub fn new(text: &str) -> Result<Option<Key>, String> {
        let text = text.trim();
        match text.chars().count() {
            0 => Ok(None),
            n if n < KEY_LENGTH => Err(format!("the access key must have at least {KEY_LENGTH} characters")),
            _ => Ok(Some(Key(text.into()))),
        }
    }

    /// Compares without telling by its time where two texts differ.
    fn is(&self, given: &str) -> bool {
        let (a, b) = (self.0.as_bytes(), given.trim().as_bytes());
        a.len() == b.len() && a.iter().zip(b).fold(0, |d, (x, y)| d | (x ^ y)) == 0
    }
}

/// Wrong keys by address. After some, an address may try once in a while only.
#[derive(Default)]
pub struct Guesses(Mutex<HashMap<IpAddr, Wrong>>);

struct Wrong {
    times: u32,
    last: Instant,
}

/// Wrong keys that are let pass as slips.
const SLIPS: u32 = 8;
/// Longest wait between two tries.
const LONGEST: Duration = Duration::from_secs(60);
/// Addresses remembered.
const MOST_ADDRESSES: usize = 10_000;

impl Guesses {
    /// How long this address has still to wait before it may try.
    fn wait(&self, from: IpAddr) -> Option<Duration> {
        let known = self.0.lock().unwrap_or_else(|e| e.into_inner());
        let w = known.get(&from).filter(|w| w.times > SLIPS)?;
        let pause = Duration::from_secs(1 << (w.times - SLIPS - 1).min(6)).min(LONGEST);
        pause.checked_sub(w.last.elapsed()).filter(|d| !d.is_zero())
    }

    fn wrong(&self, from: IpAddr) {
        let mut known = self.0.lock().unwrap_or_else(|e| e.into_inner());
        if known.len() >= MOST_ADDRESSES {
            known.retain(|_, w| w.last.elapsed() < LONGEST);
        }
        let w = known.entry(from).or_insert(Wrong { times: 0, last: Instant::now() });
        w.times += 1;
        w.last = Instant::now();
        tracing::warn!("a wrong access key from {from}, {} in a row", w.times);
    }

    fn right(&self, from: IpAddr) {
        self.0.lock().unwrap_or_else(|e| e.into_inner()).remove(&from);
    }
}

const POLICY: &str = "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src \
    'self' data: blob:; font-src 'self'; connect-src 'self'; base-uri 'none'; form-action 'none'; \
    frame-ancestors 'none'";

type Answer<B> = ServiceResponse<EitherBody<B, BoxBody>>;

pub async fn guard<B: MessageBody + 'static>(
    request: ServiceRequest,
    next: Next<B>,
) -> Result<Answer<B>, Error> {
    let api = request.path().starts_with("/api");
    let refusal = request.app_data::<web::Data<Access>>().and_then(|a| refuse(a, &request));
    let mut response = match refusal {
        Some(answer) => request.into_response(answer).map_into_right_body(),
        None => told(next.call(request).await?),
    };
    let headers = response.headers_mut();
    let set = [
        (header::CONTENT_SECURITY_POLICY, POLICY),
        (header::X_CONTENT_TYPE_OPTIONS, "nosniff"),
        (header::REFERRER_POLICY, "no-referrer"),
        (HeaderName::from_static("cross-origin-opener-policy"), "same-origin"),
        (HeaderName::from_static("cross-origin-resource-policy"), "same-origin"),
    ];
    for (name, value) in set {
        headers.insert(name, HeaderValue::from_static(value));
    }
    if api && !headers.contains_key(header::CACHE_CONTROL) {
        headers.insert(header::CACHE_CONTROL, HeaderValue::from_static("no-store"));
    }
    Ok(response)
}

/// Whatever is not a success says what to do about it.
fn told<B: MessageBody + 'static>(response: ServiceResponse<B>) -> Answer<B> {
    let status = response.status();
    let kind = response.headers().get(header::CONTENT_TYPE).and_then(|v| v.to_str().ok()).unwrap_or_default();
    if !(status.is_client_error() || status.is_server_error()) || kind.starts_with("application/problem+json")
    {
        return response.map_into_left_body();
    }
    let allow = response.headers().get(header::ALLOW).cloned();
    let detail = match status {
        StatusCode::METHOD_NOT_ALLOWED => "see /api/openapi.json for what can be asked here",
        StatusCode::NOT_FOUND => "go back to the rack",
        _ => "see /api/openapi.json",
    };
    if status.is_server_error() {
        tracing::error!("{} {} failed with {status}", response.request().method(), response.request().path());
    }
    let mut answer =
        Problem::new(status.as_u16(), status.canonical_reason().unwrap_or("The request failed"), detail)
            .error_response();
    if let Some(allow) = allow {
        answer.headers_mut().insert(header::ALLOW, allow);
    }
    let (request, _) = response.into_parts();
    ServiceResponse::new(request, answer).map_into_right_body()
}

fn refuse(access: &Access, request: &ServiceRequest) -> Option<HttpResponse> {
    let text = |name: HeaderName| {
        request.headers().get(name).and_then(|v| v.to_str().ok()).unwrap_or_default().to_string()
    };
    let host = text(header::HOST);
    if !known_host(access, &host) {
        return Some(problem(
            421,
            "The Host of this request is not this server's",
            "open Steelk by the address it printed when it started",
        ));
    }
    let elsewhere =
        || Some(problem(403, "The request comes from another site", "open Steelk in its own page"));
    let origin = text(header::ORIGIN);
    // TLS stands before a Steelk that listens beyond this machine.
    let own = |scheme: &str| scheme == "http" || (scheme == "https" && access.key.is_some());
    if !origin.is_empty() && !origin.split_once("://").is_some_and(|(scheme, o)| own(scheme) && o == host) {
        return elsewhere();
    }
    let reads = matches!(*request.method(), Method::GET | Method::HEAD | Method::OPTIONS);
    let site = text(HeaderName::from_static("sec-fetch-site"));
    if !reads && matches!(site.as_str(), "cross-site" | "same-site") {
        return elsewhere();
    }
    let key = access.key.as_ref()?;
    let given = text(header::AUTHORIZATION);
    let challenge = || {
        let mut answer = problem(
            401,
            "This Steelk asks for its access key",
            "give the key it was started with as the password",
        );
        answer.headers_mut().insert(
            header::WWW_AUTHENTICATE,
            HeaderValue::from_static("Basic realm=\"Steelk\", charset=\"UTF-8\""),
        );
        Some(answer)
    };
    if given.is_empty() {
        return challenge();
    }
    let from = request.peer_addr().map_or(IpAddr::from([0; 4]), |a| a.ip());
    if let Some(wait) = access.guesses.wait(from) {
        let seconds = wait.as_secs() as u32 + 1;
        let title = "Too many wrong access keys came from this address";
        return Some(
            Problem { retry_after: Some(seconds), ..Problem::new(429, title, format!("wait {seconds} s")) }
                .error_response(),
        );
    }
    if password(&given).is_some_and(|p| key.is(&p)) {
        access.guesses.right(from);
        return None;
    }
    access.guesses.wrong(from);
    challenge()
}

/// The key in an Authorization header; scheme names in any case.
fn password(given: &str) -> Option<String> {
    let (scheme, rest) = given.trim().split_once(' ')?;
    match scheme.to_ascii_lowercase().as_str() {
        "bearer" => Some(rest.into()),
        "basic" => {
            let both = String::from_utf8(base64::prelude::BASE64_STANDARD.decode(rest.trim()).ok()?).ok()?;
            Some(both.split_once(':')?.1.into())
        }
        _ => None,
    }
}

/// Loopback addresses and the one it listens on always; beyond this machine any name, since the key protects
/// it.
fn known_host(access: &Access, host: &str) -> bool {
    if access.key.is_some() && !host.is_empty() {
        return true;
    }
    let name = host.strip_suffix(&format!(":{}", access.port)).unwrap_or(host);
    let bare = name.trim_start_matches('[').trim_end_matches(']');
    name.eq_ignore_ascii_case("localhost")
        || bare == access.bind
        || bare.parse::<IpAddr>().is_ok_and(|ip| ip.is_loopback())
}

/// Listening beyond this machine needs a key, and an address.
pub fn may_bind(bind: &str, key: Option<&Key>) -> Result<(), String> {
    let address = bind.parse::<IpAddr>();
    if address.is_err() && !bind.eq_ignore_ascii_case("localhost") {
        return Err(format!(
            "'{bind}' is no address to listen on; give one such as 127.0.0.1, 0.0.0.0 (every network) or ::"
        ));
    }
    let loopback = address.map_or(true, |ip| ip.is_loopback());
    if loopback || key.is_some() {
        return Ok(());
    }
    Err(format!(
        "to listen on {bind}, beyond this machine, give an access key of at least {KEY_LENGTH} characters \
            (STEELK_KEY, or --key-file with a file that holds it)"
    ))
}
