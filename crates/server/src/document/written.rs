//! Who wrote what last, so that an edit made from an older document does not silently take back
//! what another page has written meanwhile.

use std::collections::VecDeque;

/// Edits that are remembered.
const REMEMBERED: usize = 1000;

/// The last writes, oldest first.
#[derive(Default)]
pub struct Written {
    edits: VecDeque<Write>,
    /// The newest revision that is forgotten.
    forgotten: u64,
}

struct Write {
    revision: u64,
    page: String,
    paths: Vec<Vec<String>>,
}

/// Objection to an edit.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Clash {
    /// Another page has written the same, or a part of it, or what it is a part of.
    Written,
    /// It was made from a document so old that this is not known any more.
    TooOld,
}

impl Written {
    /// A page wrote to some paths; documents from `revision` on know of it.
    pub fn note(&mut self, revision: u64, page: &str, paths: Vec<Vec<String>>) {
        if self.edits.len() == REMEMBERED {
            self.forgotten = self.edits.pop_front().map_or(self.forgotten, |w| w.revision);
        }
        self.edits.push_back(Write { revision, page: page.into(), paths });
    }

    /// Objection to a write by a page that knows the document as of `base`; none if it may write.
    pub fn clash(&self, base: u64, page: &str, path: &[String]) -> Option<Clash> {
        if base < self.forgotten {
            return Some(Clash::TooOld);
        }
        let within = |w: &Vec<String>| w.iter().zip(path).all(|(a, b)| a == b);
        let later = self.edits.iter().rev().take_while(|w| w.revision > base);
        let mut others = later.filter(|w| w.page != page);
        others.any(|w| w.paths.iter().any(within)).then_some(Clash::Written)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn path(text: &str) -> Vec<String> {
        text.split('/').map(Into::into).collect()
    }

    #[test]
    fn only_another_pages_later_write_to_the_same_speaks_against_an_edit() {
        let mut written = Written::default();
        written.note(11, "left", vec![path("pieces/3/position/0")]);
        let clash = |base, page, text| written.clash(base, page, &path(text));
        assert_eq!(clash(10, "right", "pieces/3/position/0"), Some(Clash::Written));
        assert_eq!(clash(10, "right", "pieces/3/position"), Some(Clash::Written));
        assert_eq!(clash(10, "right", "pieces/3"), Some(Clash::Written));
        assert_eq!(clash(10, "right", "pieces/3/position/2"), None);
        assert_eq!(clash(10, "right", "pieces/33/position/0"), None);
        assert_eq!(clash(10, "left", "pieces/3/position/0"), None);
        assert_eq!(clash(11, "right", "pieces/3/position/0"), None);
    }

    #[test]
    fn what_is_forgotten_is_not_taken_for_nothing() {
        let mut written = Written::default();
        for i in 0..REMEMBERED as u64 + 5 {
            written.note(100 + i, "left", vec![path("scenes/1/name")]);
        }
        assert_eq!(written.clash(103, "right", &path("pieces/3")), Some(Clash::TooOld));
        assert_eq!(written.clash(104, "right", &path("pieces/3")), None);
        assert_eq!(written.clash(104, "right", &path("scenes/1/name")), Some(Clash::Written));
    }
}
