import { INK_WORDS, inkOf, type ScenePart } from "@uppershed/core/drawing";
import { type Network, positionLabel } from "@uppershed/core/watermap";

/** A part in words, for those who hear the drawing: what it is, how it stands, what it holds. */
export const sayPart = (network: Network, scene: ScenePart): string => {
  const { part } = scene;
  const stands = network.controls
    .filter((c) => c.part.id === part.id && c.spec.role !== "check")
    .map(
      (c) =>
        `${c.spec.name === "main" ? "" : `${c.spec.label.toLowerCase()} `}${positionLabel(c, scene.positions[c.spec.name] ?? "")}`,
    );
  const fullest = Object.values(scene.cells).reduce((a, b) => (b.share > a.share ? b : a), {
    liquid: { waterM3: 0, glycolM3: 0 },
    share: 0,
  });
  const holds =
    fullest.share < 0.02
      ? "empty"
      : `${Math.round(fullest.share * 100)} % full of ${INK_WORDS[inkOf(fullest.liquid)]}`;
  return [part.tag ? `${part.tag}, ${part.name}` : part.name, ...stands, holds].join(", ");
};
