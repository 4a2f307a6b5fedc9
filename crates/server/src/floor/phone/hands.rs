//! A phone as hands on one of the wheels: it is a page of the floor that asks for that wheel and for nothing
//! else.

use super::Floor;
use rovnek_core::wheels::Wheel;
use rovnek_formats::tracking::phone::PhoneState;
use rovnek_live::command::{Command, PageCommand, Status};
use rovnek_live::runner::Message;
use serde_json::json;
use std::sync::atomic::Ordering;

/// The hands of one phone.
pub(super) struct Hands {
    floor: Floor,
    /// Its number as a page, and the wheel it wants.
    at: Option<(u32, Wheel)>,
    told: String,
}

impl Hands {
    /// Hands without a wheel.
    pub fn of(floor: Floor) -> Hands {
        Hands { floor, at: None, told: String::new() }
    }

    fn say(&self, page: u32, command: Command) {
        let _ = self.floor.messages.send(Message::Command(page, PageCommand { setup: None, command }));
    }

    /// Drives a wheel where the pads are for one; whether they are.
    pub fn drive(&mut self, held: &PhoneState) -> bool {
        let Some(wheel) = held.wheel else {
            self.leave();
            return false;
        };
        let page = match self.at {
            Some((page, at)) if at == wheel => page,
            _ => self.ask(wheel),
        };
        self.say(page, Command::Pads { wheel, across: held.side, ahead: held.ahead, up: held.up });
        true
    }

    /// Asks for a wheel as a page that has just come.
    fn ask(&mut self, wheel: Wheel) -> u32 {
        self.leave();
        let page = self.floor.pages.fetch_add(1, Ordering::Relaxed);
        let _ = self.floor.messages.send(Message::Join(page));
        // Where nobody has the wheels they are not a phone's either: it only has pads.
        self.say(page, Command::Give);
        self.say(page, Command::Sign { name: format!("phone {page}") });
        self.say(page, Command::Ask { wheel: Some(wheel) });
        self.at = Some((page, wheel));
        page
    }

    fn leave(&mut self) {
        if let Some((page, _)) = self.at.take() {
            let _ = self.floor.messages.send(Message::Leave(page));
        }
    }

    /// Message to the phone about its wheel, if it is new.
    pub fn told(&mut self, status: &Status) -> Option<String> {
        let (page, wheel) = self.at?;
        let has = status.hands[wheel as usize] == Some(page);
        let asks = status.asking.is_some_and(|a| a.page == page);
        let told = json!({"wheel": wheel, "has": has, "asks": asks}).to_string();
        (std::mem::replace(&mut self.told, told.clone()) != told).then_some(told)
    }
}

impl Drop for Hands {
    fn drop(&mut self) {
        self.leave();
    }
}
