//! Who may speak to the server: own Host and Origin only, an access key where it listens beyond this machine, strict headers on every answer.

use actix_web::body::{EitherBody, MessageBody};
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::header::{self, HeaderName, HeaderValue};
use actix_web::middleware::Next;
use actix_web::{Error, HttpResponse, web};
use base64::Engine;

use crate::api::problem::problem;

/// What the server was told when it started.
#[derive(Clone)]
pub struct Access {
    pub port: u16,
    /// Asked of every request when set.
    pub key: Option<String>,
}

const POLICY: &str = "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; font-src 'self'; connect-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";

pub async fn guard(request: ServiceRequest, next: Next<impl MessageBody>) -> Result<ServiceResponse<EitherBody<impl MessageBody>>, Error> {
    let refusal = request.app_data::<web::Data<Access>>().and_then(|a| refuse(a, &request));
    let mut response = match refusal {
        Some(answer) => request.into_response(answer).map_into_right_body(),
        None => next.call(request).await?.map_into_left_body(),
    };
    let set = [
        (header::CONTENT_SECURITY_POLICY, POLICY),
        (header::X_CONTENT_TYPE_OPTIONS, "nosniff"),
        (header::REFERRER_POLICY, "no-referrer"),
        (HeaderName::from_static("cross-origin-opener-policy"), "same-origin"),
        (HeaderName::from_static("cross-origin-resource-policy"), "same-origin"),
    ];
    for (name, value) in set {
        response.headers_mut().insert(name, HeaderValue::from_static(value));
    }
    Ok(response)
}

fn refuse(access: &Access, request: &ServiceRequest) -> Option<HttpResponse> {
    let text = |name: HeaderName| request.headers().get(name).and_then(|v| v.to_str().ok()).unwrap_or_default().to_string();
    let host = text(header::HOST);
    if !known_host(access, &host) {
        return Some(problem(421, "The Host of this request is not this server's", "open Steelk by the address it printed when it started"));
    }
    let origin = text(header::ORIGIN);
    let same = origin.is_empty() || origin.split_once("://").is_some_and(|(_, o)| o == host);
    if !same {
        return Some(problem(403, "The request comes from another site", "open Steelk in its own page"));
    }
    let key = access.key.as_ref()?;
    let given = text(header::AUTHORIZATION);
    let basic = given.strip_prefix("Basic ").and_then(|b| base64::prelude::BASE64_STANDARD.decode(b).ok());
    let basic = basic.and_then(|b| String::from_utf8(b).ok()).and_then(|b| b.split_once(':').map(|p| p.1.to_string()));
    let right = |k: &str| same_text(k.as_bytes(), key.as_bytes());
    if given.strip_prefix("Bearer ").is_some_and(right) || basic.as_deref().is_some_and(right) {
        return None;
    }
    let mut answer = problem(401, "This Steelk asks for its access key", "give the key it was started with as the password");
    answer.headers_mut().insert(header::WWW_AUTHENTICATE, HeaderValue::from_static("Basic realm=\"Steelk\""));
    Some(answer)
}

/// Compares without telling by its time where two texts differ.
fn same_text(a: &[u8], b: &[u8]) -> bool {
    a.len() == b.len() && a.iter().zip(b).fold(0, |d, (x, y)| d | (x ^ y)) == 0
}

/// Loopback names always; beyond this machine any name, since the key protects it.
fn known_host(access: &Access, host: &str) -> bool {
    let name = host.strip_suffix(&format!(":{}", access.port)).unwrap_or(host);
    matches!(name, "127.0.0.1" | "localhost" | "[::1]") || (access.key.is_some() && !host.is_empty())
}

/// Listening beyond this machine needs a key.
pub fn may_bind(bind: &str, key: Option<&str>) -> Result<(), String> {
    let loopback = bind == "localhost" || bind.parse::<std::net::IpAddr>().is_ok_and(|ip| ip.is_loopback());
    match key {
        _ if loopback => Ok(()),
        Some(k) if k.len() >= 12 => Ok(()),
        Some(_) => Err("the access key must have at least 12 characters".into()),
        None => Err(format!("to listen on {bind}, beyond this machine, give an access key of at least 12 characters (--key or STEELK_KEY)")),
    }
}
