"use strict";
// Sends how the phone is held and where its pads are pushed, some sixty times a second.
const by = (id) => document.getElementById(id);
const say = (text) => (by("why").textContent = by("state").textContent = text);
let turn = null;
const push = { side: 0, ahead: 0, up: 0 };

const WITHOUT =
  "Motion sensors are only given to pages that come over https. Ask the operator to switch TLS on " +
  "under Devices; until then the pads move the camera and it does not turn.";

function sensors() {
  const listen = () =>
    addEventListener("deviceorientation", (e) => {
      if (e.alpha === null) return;
      turn = [e.alpha, e.beta, e.gamma];
    });
  if (!isSecureContext || !("DeviceOrientationEvent" in window)) return say(WITHOUT);
  // Some browsers ask; they want a touch for it.
  const ask = DeviceOrientationEvent.requestPermission;
  if (!ask) return listen();
  ask.call(DeviceOrientationEvent).then(
    (answer) => (answer === "granted" ? listen() : say("The phone does not let this page feel its motion.")),
    () => say("The phone does not let this page feel its motion."),
  );
}

function pad(id, move) {
  const element = by(id);
  let from = null;
  const end = () => {
    from = null;
    element.classList.remove("on");
    move(0, 0);
  };
  element.addEventListener("pointerdown", (e) => {
    element.setPointerCapture(e.pointerId);
    from = [e.clientX, e.clientY];
    element.classList.add("on");
  });
  element.addEventListener("pointermove", (e) => {
    if (!from) return;
    const share = (v) => Math.max(-1, Math.min(1, v / 120));
    move(share(e.clientX - from[0]), share(from[1] - e.clientY));
  });
  element.addEventListener("pointerup", end);
  element.addEventListener("pointercancel", end);
}
const pads = {
  "": ["push to travel", "up, down", "Connected. Attach the camera on the operator's page."],
  machine: ["first and second axis", "third axis"],
  head: ["pan, tilt", "roll"],
  lens: ["zoom, focus", "iris"],
  performer: ["walk, turn", ""],
};
by("wheel").addEventListener("change", () => {
  const [ahead, lift, told] = pads[by("wheel").value];
  by("ahead").firstChild.textContent = ahead;
  by("lift").firstChild.textContent = lift;
  say(told ?? "Asking the operator …");
});
pad("ahead", (x, y) => Object.assign(push, { side: x, ahead: y }));
pad("lift", (_, y) => (push.up = y));

by("enter").addEventListener("submit", (event) => {
  event.preventDefault();
  sensors();
  const scheme = location.protocol === "https:" ? "wss" : "ws";
  const socket = new WebSocket(`${scheme}://${location.host}/live?code=${encodeURIComponent(by("code").value)}`);
  let timer = 0;
  socket.onopen = () => {
    by("enter").hidden = true;
    by("hold").hidden = false;
    if (isSecureContext) say("Connected. Attach the camera on the operator's page.");
    timer = setInterval(() => {
      const screenTurn = screen.orientation ? screen.orientation.angle : 0;
      socket.send(JSON.stringify({ turn, screen: screenTurn, wheel: by("wheel").value || null, ...push }));
    }, 16);
  };
  socket.onmessage = ({ data }) => {
    const { wheel, has, asks } = JSON.parse(data);
    if (wheel !== by("wheel").value) return;
    const what = by("wheel").selectedOptions[0].textContent;
    say(has ? `You have ${what}.` : asks ? `Asked for ${what}; the operator may give it.` : `You do not have ${what}.`);
  };
  socket.onclose = () => {
    clearInterval(timer);
    by("enter").hidden = false;
    by("hold").hidden = true;
    say("Not connected: the code is wrong, or the operator has closed the door. Look at the code and try again.");
  };
});
if (!isSecureContext) say(WITHOUT);
