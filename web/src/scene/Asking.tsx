import type { SceneView } from "../api/client";
import { show } from "../values";
import type { Moment } from "./moment";

/** What the player is offered and asked, where they are, and the facts; nothing where there is none of it. */
export function Asking({ scene, moment }: { scene: SceneView; moment: Moment }) {
  const facts = Object.entries(moment.facts);
  const empty =
    !moment.offers.length && !moment.questions.length && !facts.length && !moment.place && !scene.places.length;
  if (empty) return null;
  return (
    <dl className="mt-1 flex shrink-0 flex-wrap gap-x-5 text-sm" data-asking>
      {moment.place || scene.places.length > 0 ? (
        <div className="flex gap-1.5">
          <dt className="text-neutral">place</dt>
          <dd>{moment.place || "nowhere yet"}</dd>
        </div>
      ) : null}
      {facts.map(([name, value]) => (
        <div key={name} className="flex gap-1.5">
          <dt className="text-neutral">{name}</dt>
          <dd>{show(value)}</dd>
        </div>
      ))}
      {moment.questions.length > 0 ? (
        <div className="flex gap-1.5">
          <dt className="text-neutral">asked</dt>
          <dd>{moment.questions[0]}</dd>
        </div>
      ) : null}
      {moment.offers.length > 0 ? (
        <div className="flex gap-1.5">
          <dt className="text-neutral">on offer</dt>
          <dd className="flex gap-1.5">
            {moment.offers.map((offer) => (
              <span key={offer} className="border border-base-300 px-1.5">
                {offer}
              </span>
            ))}
          </dd>
        </div>
      ) : null}
    </dl>
  );
}
