//! A plain HTTP client for the tests.
// each test program uses a part of it
#![allow(dead_code)]

use serde_json::Value;
use std::time::Duration;
use ureq::Agent;

pub struct Client {
    pub agent: Agent,
    pub base: String,
}

pub struct Answer {
    pub status: u16,
    pub kind: String,
    pub body: Value,
    pub text: String,
    pub bytes: Vec<u8>,
}

impl Client {
    pub fn new(base: &str) -> Client {
        let config = Agent::config_builder().http_status_as_error(false).timeout_global(Some(Duration::from_secs(30)));
        Client { agent: config.build().new_agent(), base: base.to_owned() }
    }

    pub fn answer(response: Result<ureq::http::Response<ureq::Body>, ureq::Error>) -> Answer {
        let mut response = response.unwrap();
        let kind = response.headers().get("content-type").and_then(|v| v.to_str().ok()).unwrap_or("").to_owned();
        let bytes = response.body_mut().with_config().limit(100 << 20).read_to_vec().unwrap();
        let text = String::from_utf8_lossy(&bytes).into_owned();
        let body = serde_json::from_str(&text).unwrap_or(Value::Null);
        Answer { status: response.status().as_u16(), kind, body, text, bytes }
    }

    pub fn get(&self, path: &str) -> Answer {
        Self::answer(self.agent.get(format!("{}{path}", self.base)).call())
    }

    pub fn get_as(&self, path: &str, name: &str, value: &str) -> Answer {
        Self::answer(self.agent.get(format!("{}{path}", self.base)).header(name, value).call())
    }

    pub fn raw(&self, method: &str, path: &str, body: &str, kind: &str) -> Answer {
        let url = format!("{}{path}", self.base);
        Self::answer(match method {
            "PUT" => self.agent.put(url).header("content-type", kind).send(body),
            "PATCH" => self.agent.patch(url).header("content-type", kind).send(body),
            _ => self.agent.post(url).header("content-type", kind).send(body),
        })
    }

    pub fn sent(&self, path: &str, body: &[u8], kind: &str) -> Answer {
        Self::answer(self.agent.post(format!("{}{path}", self.base)).header("content-type", kind).send(body))
    }

    pub fn post(&self, path: &str, body: &Value) -> Answer {
        self.raw("POST", path, &body.to_string(), "application/json")
    }

    pub fn put(&self, path: &str, body: &Value) -> Answer {
        self.raw("PUT", path, &body.to_string(), "application/json")
    }

    pub fn wait_until_ready(&self) {
        for _ in 0..600 {
            if self.get("/api/health/ready").status == 204 {
                return;
            }
            std::thread::sleep(Duration::from_millis(100));
        }
        panic!("the server does not become ready");
    }
}
