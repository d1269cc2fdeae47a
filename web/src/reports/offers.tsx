import type { OwnerOffers } from "@uppershed/contract";
import { litMapSvg } from "@uppershed/core/formats";
import { ANSWERS_TOLD } from "@uppershed/core/inspection";
import { fillIn, type UnitSystem } from "@uppershed/core/quantity";
import { bothMaps } from "@uppershed/core/refit";
import { compareMaps } from "@uppershed/core/survey";
import { readWaterMap } from "@uppershed/core/watermap";
import { useMemo, useState } from "react";
import { uuid } from "../device/uuid.ts";
import { problemText, useAnswerOfferMutation, useOwnerOffersQuery } from "../store/api.ts";
import { Button } from "../ui/button.tsx";
import { Field } from "../ui/field.tsx";
import { capital, dayOf } from "../ui/words.ts";

type Offer = OwnerOffers["offers"][number];

/** Both maps of an offer as one drawing, what changes ringed and numbered, with its words. */
const useDrawn = ({ today, proposed }: Offer) =>
  useMemo(() => {
    const [before, after] = [readWaterMap(today), readWaterMap(proposed)];
    if (!before.ok || !after.ok) return undefined;
    const parts = compareMaps(before.map, after.map).filter((d) => d.what === "part");
    return {
      parts,
      svg: `data:image/svg+xml,${encodeURIComponent(
        litMapSvg(
          bothMaps(before.map, after.map),
          parts.map((p) => p.id),
        ),
      )}`,
    };
  }, [today, proposed]);

const CHANGE = { added: "new", removed: "taken out", changed: "changed" } as const;

const OneOffer = ({ offer, token, units }: { offer: Offer; token: string; units: UnitSystem }) => {
  const drawn = useDrawn(offer);
  const [answer, answering] = useAnswerOfferMutation();
  const [who, setWho] = useState("");
  const [problem, setProblem] = useState<string>();
  const say = async (said: "do-it" | "later" | "no"): Promise<void> => {
    const reply = await answer({
      token,
      offerId: offer.id,
      asked: { id: uuid(), answer: said, who },
    });
    setProblem(reply.error ? problemText(reply.error) : undefined);
  };
  return (
    <section
      aria-label={`Offered: ${offer.name}`}
      className="no-print mt-6 border-t-2 border-green pt-3"
    >
      <h2 className="text-[20px] font-bold">Offered: {offer.name}</h2>
      <p className="text-[14px] text-muted">
        {dayOf(offer.at)}, {offer.by}
      </p>
      {drawn && (
        <>
          <img
            src={drawn.svg}
            alt={`The water map with what changes marked: ${drawn.parts.map((p) => `${p.name} ${CHANGE[p.change]}`).join(", ")}`}
            className="my-2 w-full rounded border border-line bg-raised"
          />
          <ol className="ml-5 list-decimal text-[15px]">
            {drawn.parts.map((p) => (
              <li key={p.id}>
                {capital(p.name)}: {CHANGE[p.change]}
              </li>
            ))}
          </ol>
        </>
      )}
      <ul className="ml-5 mt-2 list-disc text-[15px]">
        {offer.lines.map((l) => (
          <li key={l}>{fillIn(l, units)}</li>
        ))}
      </ul>
      {offer.answer ? (
        <p role="status" className="mt-3 border-l-4 border-green bg-green-soft p-3 font-semibold">
          Your answer: {ANSWERS_TOLD[offer.answer.answer]} ({offer.answer.who},{" "}
          {dayOf(offer.answer.at)})
        </p>
      ) : (
        <div className="mt-3">
          <Field
            label="Your name"
            maxLength={120}
            autoComplete="name"
            value={who}
            onChange={(e) => setWho(e.target.value)}
          />
          <div className="mt-2 flex flex-wrap gap-2">
            <Button
              look="act"
              big
              disabled={who.trim() === "" || answering.isLoading}
              onClick={() => void say("do-it")}
            >
              Do it
            </Button>
            <Button
              big
              disabled={who.trim() === "" || answering.isLoading}
              onClick={() => void say("later")}
            >
              Later
            </Button>
            <Button
              big
              disabled={who.trim() === "" || answering.isLoading}
              onClick={() => void say("no")}
            >
              No
            </Button>
          </div>
          {problem && (
            <p role="alert" className="mt-2 text-rust">
              {problem}
            </p>
          )}
        </div>
      )}
    </section>
  );
};

/** What an owner is offered with their report, and their answer to it. */
export const Offers = ({ token, units }: { token: string; units: UnitSystem }) => {
  const { data: offers = [] } = useOwnerOffersQuery(token, { refetchOnMountOrArgChange: true });
  return offers.map((o) => <OneOffer key={o.id} offer={o} token={token} units={units} />);
};
