import { fileURLToPath } from "node:url";
import { buildApp } from "./app.ts";
import { migrateDatabase, openDatabase } from "./db.ts";
import { loadDemo } from "./demo/load.ts";

/** Settings from the environment; `npm start` sets them. */
const need = (name: string): string => {
  const value = process.env[name];
  if (value) return value;
  console.error(`${name} is not set. Start the application with "npm start".`);
  process.exit(2);
};

const port = Number(process.env["PORT"] ?? "4700");
const host = process.env["HOST"] ?? "127.0.0.1";
const database = openDatabase(need("DATABASE_URL"));

await migrateDatabase(database.db);
const demoPassword = process.env["DEMO_PASSWORD"];
if (demoPassword) await loadDemo(database.db, demoPassword, new Date());

const app = await buildApp(database.db, {
  secureCookies: process.env["SECURE_COOKIES"] === "1",
  signInsPerMinute: Number(process.env["SIGN_INS_PER_MINUTE"] ?? "20"),
  requestsPerMinute: Number(process.env["REQUESTS_PER_MINUTE"] ?? "1200"),
  webRoot: fileURLToPath(new URL("../../web/dist", import.meta.url)),
  log: true,
});

const stop = async (): Promise<void> => {
  await app.close();
  await database.close();
  process.exit(0);
};
process.on("SIGINT", () => void stop());
process.on("SIGTERM", () => void stop());

try {
  await app.listen({ port, host });
  console.log(`listening on http://${host}:${port}`);
} catch (error) {
  const taken = (error as { code?: string }).code === "EADDRINUSE";
  console.error(
    taken ? `Port ${port} is taken. Set PORT to a free one, for example: PORT=4800 npm start` : `Could not listen on ${host}:${port}.`,
  );
  process.exit(1);
}
