import { defineConfig } from "drizzle-kit";

export default defineConfig({
  dialect: "postgresql",
  schema: "./server/src/schema/index.ts",
  out: "./server/drizzle",
  strict: true,
  casing: "snake_case",
});
