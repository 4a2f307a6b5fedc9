//! `rovnek copy`.

use clap::Args;
use rovnek_store::shelf::{self, Shelf};
use std::path::PathBuf;

#[derive(Args)]
pub struct Copy {
    /// Folder with the productions
    #[arg(long, default_value = "rovnek-data")]
    data: PathBuf,
    /// Production to copy, as its file is called, without the ending; the one opened last where left out
    #[arg(long, conflicts_with = "bring")]
    production: Option<String>,
    /// Put a copy onto the shelf that was kept before, rather than write one
    #[arg(long)]
    bring: bool,
    /// File to write, or to bring in
    file: PathBuf,
}

impl Copy {
    pub fn run(&self) -> Result<(), String> {
        if self.bring {
            let shelf = Shelf::open(&self.data).map_err(|e| e.to_string())?;
            let id = shelf.take_in(&self.file).map_err(|e| e.to_string())?;
            println!("{id}");
            return Ok(());
        }
        if self.file.exists() {
            return Err(format!("{} is there already; give another name", self.file.display()));
        }
        // A production can be copied while it is open: SQLite sees to it that the copy is whole.
        let of = super::production(&self.data, self.production.as_deref())?;
        shelf::copy(&of, &self.file).map_err(|e| e.to_string())
    }
}
