import { goToStation } from "../state/stations";
import { STATIONS } from "../state/stationList";
import { setView, useView } from "../state/view";
import { ink } from "../theme";
import { Icon } from "../form/icons";

/** The stations that work, in the order of the job. */
export function Stations() {
  const here = useView((s) => s.station);
  return (
    <nav
      aria-label="Stations"
      style={{
        borderRight: `1px solid ${ink.slate3}`,
        background: ink.slate1,
        display: "flex",
        flexDirection: "column",
      }}
    >
      {STATIONS.map(([name, word], i) => (
        <button
          key={name}
          className="plain"
          aria-current={here === name ? "page" : undefined}
          title={`${word} (Alt ${i + 1})`}
          onClick={() => goToStation(name)}
          style={{
            height: 68,
            display: "grid",
            placeContent: "center",
            justifyItems: "center",
            gap: 6,
            fontSize: 13,
            borderBottom: `1px solid ${ink.slate3}`,
            ...(here === name ? { background: ink.chalk, color: ink.slate0 } : { color: ink.chalkDim }),
          }}
        >
          <Icon name={name} size={22} />
          {word}
        </button>
      ))}
      <button
        className="plain"
        title="Shortcuts (?)"
        onClick={() => setView({ showKeys: true })}
        style={{
          marginTop: "auto",
          padding: "10px 0",
          textAlign: "center",
          fontSize: 12.5,
          color: ink.chalkDim,
        }}
      >
        <span className="key">?</span> keys
      </button>
    </nav>
  );
}
