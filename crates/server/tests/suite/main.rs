//! Tests of the server program: interface, front end, browser, shelf, attacks.
//! One program, so that it is linked once.

mod answers;
mod api;
mod attacks;
mod begin;
mod browser;
mod carry;
mod client;
mod days;
mod drive;
mod fits;
mod front_end;
mod listen;
mod log;
mod measurements;
mod openapi;
mod order;
mod recordings;
mod room;
mod shelf;
mod workshop;
