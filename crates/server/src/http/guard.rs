//! Who may ask. A page of another site must not drive the crane: the host a request names must be
//! this machine by address, and an origin must be that same host. Every answer carries the
//! headers that keep the page to itself.

use crate::http::problem::Problem;
use rocket::fairing::{Fairing, Info, Kind};
use rocket::http::uri::Origin;
use rocket::http::{Header, Method, Status};
use rocket::{Data, Request, Response, get};
use std::net::IpAddr;

/// Fairing that refuses other hosts and origins.
pub struct Guard;

const POLICY: &str = "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; \
     object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'none'";

#[rocket::async_trait]
impl Fairing for Guard {
    fn info(&self) -> Info {
        Info { name: "host, origin and headers", kind: Kind::Request | Kind::Response }
    }

    async fn on_request(&self, request: &mut Request<'_>, _: &mut Data<'_>) {
        // HTTP/2 has no Host header; it names the host where the address stands.
        let host = request.headers().get_one("Host").map(str::to_string);
        let host = host.or_else(|| request.host().map(ToString::to_string));
        let origin = request.headers().get_one("Origin").map(str::to_string);
        if !allowed(host.as_deref(), origin.as_deref()) {
            request.set_uri(Origin::parse("/api/refused").expect("a plain path"));
            request.set_method(Method::Get);
        }
    }

    async fn on_response<'r>(&self, _: &'r Request<'_>, response: &mut Response<'r>) {
        for (name, value) in [
            ("Content-Security-Policy", POLICY),
            ("X-Content-Type-Options", "nosniff"),
            ("Referrer-Policy", "no-referrer"),
            ("Cross-Origin-Opener-Policy", "same-origin"),
            ("Cross-Origin-Resource-Policy", "same-origin"),
        ] {
            response.set_header(Header::new(name, value));
        }
    }
}

/// A name can be made to point anywhere, an address cannot: only addresses and `localhost` count.
fn allowed(host: Option<&str>, origin: Option<&str>) -> bool {
    let Some(host) = host else { return false };
    let name =
        host.rsplit_once(':').filter(|(_, port)| port.parse::<u16>().is_ok()).map_or(host, |(name, _)| name);
    let bare = name.trim_start_matches('[').trim_end_matches(']');
    let named = bare == "localhost" || bare.parse::<IpAddr>().is_ok();
    named && origin.is_none_or(|o| o.strip_prefix("http://").or(o.strip_prefix("https://")) == Some(host))
}

/// Answer for refused requests.
#[get("/refused")]
pub fn refused() -> Problem {
    let sentence =
        "this address or page may not use Rovnek here; open it by the address it printed at its start";
    Problem::of(Status::Forbidden, sentence)
}

#[cfg(test)]
mod tests {
    use super::allowed;

    #[test]
    fn addresses_may_ask_and_other_sites_may_not() {
        for host in ["127.0.0.1:4780", "localhost:4780", "[::1]:4780", "192.168.1.7", "localhost"] {
            assert!(allowed(Some(host), None), "{host}");
            assert!(allowed(Some(host), Some(&format!("http://{host}"))), "{host}");
            assert!(!allowed(Some(host), Some("http://elsewhere.example")), "{host}");
            assert!(!allowed(Some(host), Some("null")), "{host}");
        }
        for host in ["rovnek.example:4780", "localhost.example", ""] {
            assert!(!allowed(Some(host), None), "{host}");
        }
        assert!(!allowed(None, None));
    }
}
