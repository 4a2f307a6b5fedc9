//! A take as its first roll and the passes over it make it.

use rovnek_core::axis::Axis;
use rovnek_core::passes::{Pass, with_passes};
use rovnek_core::samples::Samples;
use rovnek_store::Result;
use rovnek_store::model::Take;
use rovnek_store::rows::reader::Reader;

/// Columns by name in the order of a machine's axes. An axis that was not recorded stands at its start.
fn named(samples: Samples, names: &[String], axes: &[Axis]) -> Samples {
    if names.iter().map(String::as_str).eq(axes.iter().map(|a| a.name)) {
        return samples;
    }
    let place = |axis: &Axis| names.iter().position(|n| n == axis.name).filter(|i| *i < samples.width());
    let places: Vec<Option<usize>> = axes.iter().map(place).collect();
    let row = |row: &[f64]| -> Vec<f64> {
        places.iter().zip(axes).map(|(i, axis)| i.map_or(axis.start, |i| row[i])).collect()
    };
    Samples::new(samples.rate_hz(), axes.len(), samples.rows().flat_map(row).collect())
}

/// The samples of a take with its passes over it. A pass that is looked at by itself has none.
pub fn samples(reader: &Reader, take: &Take, passes: &[Take], axes: &[Axis]) -> Result<Samples> {
    let columns = |take: &Take| Ok(named(reader.samples(take.id)?, &take.axes, axes));
    let base = columns(take)?;
    if passes.is_empty() {
        return Ok(base);
    }
    let over: Vec<Samples> = passes.iter().map(columns).collect::<Result<_>>()?;
    let pass = |(take, samples): (&Take, _)| {
        let placement = &take.pass.as_ref()?.placement;
        let place = |name: &String| axes.iter().position(|a| a.name == name.as_str());
        let named = placement.axes.iter().filter_map(place).collect();
        Some(Pass { samples, at: placement.at, axes: named, blend_s: placement.blend_s })
    };
    let all: Vec<Pass> = passes.iter().zip(&over).filter_map(pass).collect();
    Ok(with_passes(&base, &all, axes))
}

#[cfg(test)]
mod tests {
    use super::*;
    use rovnek_core::lens::Camera;
    use rovnek_core::rigs::{RigSpec, Tripod};

    #[test]
    fn columns_come_by_their_names_and_what_was_not_recorded_stands_at_its_start() {
        let rig = RigSpec::Tripod(Tripod::default()).build(&Camera::default());
        let mut names: Vec<String> = rig.axes().iter().map(|a| a.name.to_string()).collect();
        let values: Vec<f64> = (0..3 * names.len()).map(|v| v as f64).collect();
        let all = Samples::new(120.0, names.len(), values);
        assert_eq!(named(all.clone(), &names, rig.axes()), all);
        let last = names.len() - 1;
        names.swap(0, 1);
        names[last] = "gone".into();
        let found = named(all.clone(), &names, rig.axes());
        for k in 0..3 {
            assert_eq!(found.row(k)[..2], [all.row(k)[1], all.row(k)[0]]);
            assert_eq!(found.row(k)[last], rig.axes()[last].start);
        }
    }
}
