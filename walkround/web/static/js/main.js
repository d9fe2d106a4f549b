// Every page: moves things and keeps time. It holds no rule: what is right or wrong is said by the server.

import "./keys.js";
import "./looks.js";
import "./buttons.js";
import "./panel.js";
import "./notices.js";
import "./device.js";
import "./seen.js";
