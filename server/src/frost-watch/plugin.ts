import { frostWatchSchema, newForecastSchema, problemSchema } from "@uppershed/contract";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { bringForecast, frostWatch } from "./watch.ts";

/** The nights to come, and who is in danger of them. */
export const frostWatchPlugin: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/frost-watch",
    {
      schema: {
        tags: ["house"],
        summary: "The nights to come at each place, and the units that do not hold them",
        response: { 200: frostWatchSchema },
      },
    },
    async (request) => frostWatch(request.scope, new Date()),
  );

  app.post(
    "/places/:placeId/forecast",
    {
      schema: {
        tags: ["house"],
        summary: "Bring a forecast for a place, as CSV",
        params: z.strictObject({ placeId: z.uuid("not a place's id") }),
        body: newForecastSchema,
        response: { 200: frostWatchSchema, 404: problemSchema, 422: problemSchema },
      },
    },
    async (request) => {
      await bringForecast(request.scope, request.params.placeId, request.body.text);
      return frostWatch(request.scope, new Date());
    },
  );
};
