//! Carriers: machines, performers, pieces of the set.

use crate::ids::{MoveId, PerformerId, PieceId, SetupId};
use serde::{Deserialize, Deserializer, Serialize};
use ts_rs::TS;

/// Carrier of a machine, performer or piece.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "by")]
pub enum Carrier {
    /// A piece of the set.
    Piece {
        /// Id of the piece in the scene.
        id: PieceId,
    },
    /// Performer as a carrier.
    Performer {
        /// Id of the performer in the scene.
        id: PerformerId,
    },
    /// The carriage of another setup's machine, as it stands or as a move has it.
    Setup {
        /// Id of the setup in the scene.
        id: SetupId,
        /// One of its moves.
        #[serde(default, rename = "move")]
        moved: Option<MoveId>,
    },
}

/// Reads what carries somebody, as it is kept and as it was when only pieces could: by their number.
pub(crate) fn or_piece<'de, D: Deserializer<'de>>(from: D) -> Result<Option<Carrier>, D::Error> {
    #[derive(Deserialize)]
    #[serde(untagged)]
    enum StoredCarrier {
        Piece(PieceId),
        Carrier(Carrier),
    }
    Ok(Option::<StoredCarrier>::deserialize(from)?.map(|kept| match kept {
        StoredCarrier::Piece(id) => Carrier::Piece { id },
        StoredCarrier::Carrier(carrier) => carrier,
    }))
}

#[cfg(test)]
mod tests {
    use super::Carrier;
    use crate::ids::{MoveId, PieceId, SetupId};
    use crate::performer::Part;
    use serde_json::json;

    #[test]
    fn who_rode_a_piece_by_its_number_still_does() {
        let mut part = json!({"performance": 1, "motion": "walks", "route": {"waypoints": []}});
        let rides = |part: &serde_json::Value| serde_json::from_value::<Part>(part.clone()).unwrap().rides;
        assert_eq!(rides(&part), None);
        for (kept, read) in [
            (json!(null), None),
            (json!(11), Some(Carrier::Piece { id: PieceId(11) })),
            (json!({"by": "piece", "id": 11}), Some(Carrier::Piece { id: PieceId(11) })),
            (json!({"by": "setup", "id": 2}), Some(Carrier::Setup { id: SetupId(2), moved: None })),
            (
                json!({"by": "setup", "id": 2, "move": 9}),
                Some(Carrier::Setup { id: SetupId(2), moved: Some(MoveId(9)) }),
            ),
        ] {
            part["rides"] = kept;
            assert_eq!(rides(&part), read);
        }
    }
}
