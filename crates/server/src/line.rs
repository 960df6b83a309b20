//! The connection that a request came over: whether the client is still there while its answer is worked out.

use std::net::TcpStream;
use std::sync::Arc;

/// A second handle of a connection; nothing is read from it.
#[derive(Clone)]
pub struct Line(Option<Arc<TcpStream>>);

impl Line {
    /// From what the server is handed when somebody connects.
    pub fn of(connection: &dyn std::any::Any) -> Line {
        Line(connection.downcast_ref::<actix_web::rt::net::TcpStream>().and_then(second).map(Arc::new))
    }

    /// The client has ended its side. One that ends only its sending counts as gone as well.
    pub fn is_gone(&self) -> bool {
        let Some(stream) = &self.0 else { return false };
        match stream.peek(&mut [0]) {
            Ok(n) => n == 0,
            Err(e) => !matches!(e.kind(), std::io::ErrorKind::WouldBlock | std::io::ErrorKind::Interrupted),
        }
    }
}

#[cfg(unix)]
fn second(stream: &actix_web::rt::net::TcpStream) -> Option<TcpStream> {
    use std::os::fd::AsFd;
    stream.as_fd().try_clone_to_owned().ok().map(TcpStream::from)
}

#[cfg(not(unix))]
fn second(_: &actix_web::rt::net::TcpStream) -> Option<TcpStream> {
    None
}
