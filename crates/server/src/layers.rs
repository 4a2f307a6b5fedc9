//! A take as its first roll and the passes over it make it.

use rovnek_core::axis::Axis;
use rovnek_core::passes::{Pass, laid};
use rovnek_core::samples::Samples;
use rovnek_store::Result;
use rovnek_store::model::Take;
use rovnek_store::reader::Reader;
use std::hash::{DefaultHasher, Hash, Hasher};

/// What the layers of a take are made of, as one number: as long as it is the same, so are they.
pub fn print(take: &Take, passes: &[Take]) -> u64 {
    let mut hasher = DefaultHasher::new();
    std::iter::once(take).chain(passes).for_each(|t| (t.id, t.samples).hash(&mut hasher));
    hasher.finish()
}

/// The samples of a take with its passes laid over it. A pass that is looked at by itself has none.
pub fn samples(reader: &Reader, take: &Take, passes: &[Take], axes: &[Axis]) -> Result<Samples> {
    let base = reader.samples(take.id)?;
    if passes.is_empty() {
        return Ok(base);
    }
    let over: Vec<Samples> = passes.iter().map(|p| reader.samples(p.id)).collect::<Result<_>>()?;
    let pass = |(take, samples): (&Take, _)| {
        let lies = &take.pass.as_ref()?.lies;
        let place = |name: &String| axes.iter().position(|a| a.name == name.as_str());
        let named = lies.axes.iter().filter_map(place).collect();
        Some(Pass { samples, at: lies.at, axes: named, blend_s: lies.blend_s })
    };
    let all: Vec<Pass> = passes.iter().zip(&over).filter_map(pass).collect();
    Ok(laid(&base, &all, axes))
}
