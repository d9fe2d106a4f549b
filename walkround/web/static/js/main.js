// Every page: moves things and keeps time. It holds no rule: what is right or wrong is said by the server.

import "./keys.js";
import "./looks.js";
import "./buttons.js";
import "./newest.js";
import "./leaving.js";
import "./panel.js";
import "./notices.js";
import "./device.js";
import "./seen.js";

// What was noted in a flight and is still on this device is sent from whatever page is opened next.
if ((localStorage.getItem("walkround-notes") || "[]") !== "[]") import("./flight/queue.js").then((queue) => queue.send(() => {}));
