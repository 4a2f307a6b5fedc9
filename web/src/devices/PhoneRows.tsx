import { QRCodeSVG } from "qrcode.react";
import { useOpenPhone, usePhone } from "../api";
import { Row, Toggle } from "../form/rows";
import { ink } from "../theme";

/** The door through which a phone comes in: shut until it is opened here. */
export function PhoneRows() {
  const view = usePhone().data;
  const open = useOpenPhone();
  if (!view) return null;
  const { wanted, address, code } = view;
  return (
    <>
      <Row label="phone">
        <Toggle
          on={wanted.tls}
          label="TLS"
          title="Browsers give a phone's motion sensors only to pages that come over https. Without it the pads move the camera and it does not turn."
          onClick={() => open.mutate({ ...wanted, tls: !wanted.tls })}
        />
        <Toggle
          on={wanted.on}
          label={wanted.on ? "open" : "add a phone"}
          title="Opens one page to the local network, and nothing else"
          onClick={() => open.mutate({ ...wanted, on: !wanted.on })}
        />
      </Row>
      {address && (
        <div data-testid="phone" style={{ padding: "2px 0 6px", fontSize: 12.5, color: ink.chalkDim }}>
          <QRCodeSVG
            value={address}
            size={96}
            bgColor={ink.paper}
            fgColor={ink.ink}
            marginSize={2}
            title={`The address ${address} for the phone's camera`}
            style={{ float: "right", margin: "2px 0 4px 8px", borderRadius: 3 }}
          />
          Point the phone at the square, or open <span className="num">{address}</span> on the phone and type{" "}
          <b className="num" data-testid="phone-code" style={{ fontSize: 17, color: ink.chalk }}>
            {code}
          </b>
          {wanted.tls
            ? ". The certificate was made here, so the phone warns once; your own goes into the data folder as phone-cert.pem and phone-key.pem."
            : ". Without TLS its motion sensors stay silent."}
        </div>
      )}
    </>
  );
}
