import { againstOwnServer } from "./lib/own-server.mjs";

/** npm run hard:requests: the real server on a database of its own, and broken requests to it. */
await againstOwnServer("e2e/hard-times/requests.ts");
