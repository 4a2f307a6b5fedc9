//! Document as read last, and the rows that were touched since.

use crate::layout::fingerprints::Fingerprints;
use crate::model::Document;
use crate::things::RowId;
use std::cell::{RefCell, RefMut};
use std::collections::BTreeSet;
use std::sync::Arc;

/// Document as read last, and the rows that were touched since.
#[derive(Default)]
pub(crate) struct LastRead(RefCell<State>);

#[derive(Default)]
pub(crate) struct State {
    pub document: Option<Arc<Document>>,
    pub fingerprints: Fingerprints,
    pub touched: BTreeSet<RowId>,
}

impl LastRead {
    /// Rows whose content, place or being there may have changed.
    pub fn touch(&self, rows: &[RowId]) {
        self.0.borrow_mut().touched.extend(rows);
    }

    /// Everything may have changed.
    pub fn forget(&self) {
        *self.0.borrow_mut() = State::default();
    }

    /// State to read on from.
    pub fn state(&self) -> RefMut<'_, State> {
        self.0.borrow_mut()
    }
}
