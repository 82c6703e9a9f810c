import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Button } from "react-bootstrap";
import { answer, api, type Schemas } from "../../api/client";
import { kitGlass } from "../../state/bag";
import { useSettled } from "../../ui/useSettled";
import { words } from "../../words";
import { signedStops, timeText } from "../../words/times";
import { filmOf, type Laid, readingOf } from "../../state/bench";
import { never } from "../../ui/never";
import { useUsableEnds } from "../../questions/usable";

type Stack = Schemas["StackAnswer"];

interface Props {
  laid: Laid;
  target: Target;
  /** The target is the middle of an aim, not a time. */
  intoAim: boolean;
  onTake: (stack: Stack, turned: Record<string, number>) => void;
}

export type Target = Schemas["TargetAsked"];

const SHOWN = 3;
const REASONS = 2;

/** Other ways to this time with the glass in the bag: the few that matter, each with its reason. */
export function Alternatives({ laid, target, intoAim, onTake }: Props) {
  const ends = useUsableEnds(laid);
  // The finder is asked when the hands rest, so that it never stands in the way of the sum.
  const question = useSettled(questionOf(laid, target, ends), 180);
  const found = useQuery({
    queryKey: ["stacks", question],
    queryFn: ({ signal }) => answer(api.POST("/api/stacks", { body: question, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
  if (!found.data) return null;
  const stacks = others(found.data.stacks, laid.bench.floating === "time").slice(0, SHOWN);
  const name = (id: string) => laid.bag.find((glass) => glass.id === id)?.name ?? id;
  const turns = (stack: Stack): Record<string, number> => {
    const variable = laid.bag.find((glass) => glass.kind === "variable" && stack.glass.includes(glass.id));
    return variable && stack.turned != null ? { [variable.id]: stack.turned } : {};
  };
  const title = intoAim ? words.alternatives.intoAim : words.alternatives.title(timeText(target.seconds));
  return (
    <section className="alternatives" aria-label={title}>
      <h3>{title}</h3>
      {found.data.none_because && <p>{found.data.none_because}</p>}
      {found.data.none_because && found.data.nearest && (
        <Row stack={found.data.nearest} name={name} onTake={() => onTake(found.data.nearest ?? never(), {})} nearest />
      )}
      {stacks.map((stack) => (
        <Row
          key={[...stack.glass, stack.aperture, stack.iso].join()}
          stack={stack}
          name={name}
          onTake={() => onTake(stack, turns(stack))}
        />
      ))}
    </section>
  );
}

/** The best stack of each set of glass; the set on the lens is left out while it is what gives this time. */
function others(stacks: Stack[], givesIt: boolean): Stack[] {
  const met = new Set<string>();
  return stacks.filter((stack) => {
    const set = stack.glass.toSorted().join();
    if (met.has(set) || (stack.hand_moves === 0 && givesIt)) return false;
    met.add(set);
    return true;
  });
}

function Row(props: { stack: Stack; name: (id: string) => string; onTake: () => void; nearest?: boolean }) {
  const { stack, name, onTake, nearest } = props;
  const why = nearest
    ? words.alternatives.nearest
    : stack.reasons
        .slice(0, REASONS)
        .map((reason) => reason.text)
        .join(", ");
  const moves = stack.hand_moves === 0 ? words.alternatives.noMoves : words.alternatives.moves(stack.hand_moves);
  return (
    <Button variant="quiet" className="alternative" onClick={onTake}>
      <strong>{timeText(stack.seconds)}</strong>
      <span className="alternative-how">
        {stack.glass.map(name).join(" + ") || words.log.bare}, f/{stack.aperture}, ISO {stack.iso}
      </span>
      <span className="alternative-why">
        {why}
        {Math.abs(stack.error_stops) > 0.05 && `, ${signedStops(stack.error_stops)}`}; {moves}
      </span>
    </Button>
  );
}

function questionOf(laid: Laid, target: Target, ends: Record<string, number>): Schemas["StacksAsked"] {
  const { bench, lens, body, holder, fixedAperture, fixedIso } = laid;
  const free = laid.items.filter((item) => !bench.inReading.includes(item.id)).slice(0, 24);
  const taken = laid.stack.length - laid.stack.filter((glass) => !bench.inReading.includes(glass.id)).length;
  const room = (holder?.facts.slots ?? 2) + (holder?.facts.polariser_ring ? 1 : 0) - taken;
  const normal = body?.offers.isos ?? [laid.bench.iso];
  const extended = body?.facts.iso_extended;
  return {
    reading: readingOf(laid),
    glass: free.map((item) => ({ ...kitGlass(item), ...(ends[item.id] && { usable_max: ends[item.id] }) })),
    slots: Math.max(0, Math.min(4, room)),
    target,
    apertures: fixedAperture
      ? [Number(fixedAperture), Number(fixedAperture)]
      : // As marks: a lens says 22 and means f/22.63.
        [String(lens?.facts.aperture_widest ?? 2.8), String(lens?.facts.aperture_smallest ?? 22)],
    isos: fixedIso ? [Number(fixedIso)] : [...normal, ...(extended == null ? [] : [String(extended)])],
    // The extended low ISO costs highlights: it may serve, but it is no base.
    iso_base: fixedIso ? Number(fixedIso) : (normal[0] ?? laid.bench.iso),
    must: [],
    sharp_to: lens?.facts.sharp_to ?? body?.offers.sharp_to ?? 11,
    on: laid.stack.filter((glass) => !bench.inReading.includes(glass.id)).map((glass) => glass.id),
    film: filmOf(laid),
  };
}
