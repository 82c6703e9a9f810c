import { useId } from "react";
import type { Developed } from "../../questions/dryRun";
import { dryRunWords as say } from "../../words/dryRun";
import { colourOf, LEFT, type PartName } from "./tones";
import "./dryrun.css";

type Drawn = "mole" | "tarn" | "falls" | "square";

interface Props {
  developed: Developed;
  drawn: Drawn;
  name: string;
}

/** A frame of a dry run as it came out, drawn from the core's own figures: tones, blur of what moves, faults. */
export function DryPicture({ developed, drawn, name }: Props) {
  const id = useId();
  const { tones, faults, cast_mired: cast } = developed;
  const has = (code: string) => faults.find((fault) => fault.code === code);
  const colour = (part: PartName, by = 0) => {
    const tone = tones.find((each) => each.part === part) ?? tones[0];
    return tone ? colourOf({ ...tone, part }, cast, by) : "none";
  };
  const left = (kinds: string[]) => {
    const rendering = developed.renderings.find((each) => kinds.includes(each.kind));
    return rendering ? (LEFT[rendering.look] ?? 0.5) : 1;
  };
  const Scene = SCENES[drawn];
  const alt = say.frame.alt([name, developed.text.replace(".", ""), ...faults.map((fault) => fault.text)].join(", "));
  const scene = <Scene colour={colour} left={left} />;
  return (
    <span className="photo dry-picture">
      <svg viewBox="0 0 300 200" role="img" aria-label={alt}>
        <defs>
          <filter id={`${id}-blur`} x="0" y="0" width="1" height="1">
            <feGaussianBlur stdDeviation="3.2" />
          </filter>
          <radialGradient id={`${id}-corner`} r="0.72">
            <stop offset="0.66" stopColor="#000" stopOpacity="0" />
            <stop offset="0.8" stopColor="#000" stopOpacity="0.9" />
          </radialGradient>
          <linearGradient id={`${id}-leak`} x1="0" x2="1" y1="0.2" y2="0.5">
            <stop offset="0" stopColor="#fff" stopOpacity="0.85" />
            <stop offset="1" stopColor="#fff" stopOpacity="0" />
          </linearGradient>
          <filter id={`${id}-soft`} x="-0.2" y="-0.2" width="1.4" height="1.4">
            <feGaussianBlur stdDeviation="7" />
          </filter>
          <clipPath id={`${id}-frame`}>
            <rect width="300" height="200" />
          </clipPath>
        </defs>
        <g clipPath={`url(#${id}-frame)`} filter={has("focus") ? `url(#${id}-blur)` : undefined}>
          {scene}
          {has("shake") && (
            <>
              <g opacity="0.5" transform="translate(5 3)">
                {scene}
              </g>
              <g opacity="0.33" transform="translate(-4 6)">
                {scene}
              </g>
            </>
          )}
        </g>
        <g clipPath={`url(#${id}-frame)`}>
          {has("cross") && (
            <g filter={`url(#${id}-soft)`} opacity="0.75">
              <path d="M-20 -10 L320 210 M320 -10 L-20 210" stroke="#000" strokeWidth="34" />
            </g>
          )}
          {has("leak") && <path d="M0 18 L300 70 L300 96 L0 62 Z" fill={`url(#${id}-leak)`} />}
          {has("corner") && <rect width="300" height="200" fill={`url(#${id}-corner)`} />}
        </g>
      </svg>
    </span>
  );
}

interface SceneProps {
  colour: (part: PartName, by?: number) => string;
  left: (kinds: string[]) => number;
}

const CREST = [112, 122, 134, 149, 166];

/** Crests that fade as the time averages them, and a mist where nothing is left of them. */
function Sea({ colour, left, from = 100 }: SceneProps & { from?: number }) {
  const crests = left(["sea", "river"]);
  return (
    <>
      <rect y={from} width="300" height={200 - from} fill={colour("water")} />
      <g stroke={colour("water", 0.9)} fill="none" opacity={crests}>
        {CREST.filter((y) => y > from + 6).map((y, place) => (
          <path
            key={y}
            strokeWidth={1.5 + place}
            d={`M-6 ${y} q 15 -7 30 0 t 30 0 t 30 0 t 30 0 t 30 0 t 30 0 t 30 0 t 30 0 t 30 0 t 30 0 t 30 0`}
          />
        ))}
      </g>
      {crests < 0.2 && <rect y="152" width="300" height="30" fill={colour("water", 0.6)} opacity={0.5 - crests} />}
    </>
  );
}

function Clouds({ colour, left }: SceneProps) {
  const still = left(["cloud"]);
  const long = 1 + (1 - still) * 3.2;
  return (
    <g fill={colour("sky", 0.7)} opacity={Math.max(0.12, still)}>
      {[
        [60, 24],
        [170, 40],
        [250, 18],
      ].map(([x = 0, y = 0]) => (
        <g key={x} transform={`translate(${x} ${y}) scale(${long} ${1 / Math.sqrt(long)})`}>
          <ellipse rx="24" ry="7" />
          <ellipse cx="12" cy="-5" rx="13" ry="7" />
        </g>
      ))}
    </g>
  );
}

function Mole(props: SceneProps) {
  const { colour } = props;
  return (
    <>
      <rect width="300" height="102" fill={colour("sky")} />
      <rect y="70" width="300" height="32" fill={colour("sky", 0.5)} />
      <g fill={colour("sun")}>
        {/* Not the disc: where it is about to come up, or has gone down. */}
        {[78, 54, 32].map((wide) => (
          <ellipse key={wide} cx="82" cy="102" rx={wide} ry={wide / 4} opacity="0.3" />
        ))}
      </g>
      <Sea {...props} />
      <path d="M300 118 L186 104 L176 104 L176 112 L300 146 Z" fill={colour("ground", 0.5)} />
      <path d="M181 104 L183 62 L189 62 L191 104 Z" fill={colour("ground", 0.2)} />
      <rect x="180" y="54" width="12" height="8" fill={colour("ground", -0.6)} />
      <circle cx="186" cy="58" r="2.6" fill={colour("lamp", 1)} />
      <path d="M0 200 L0 168 L46 172 L88 184 L140 176 L206 188 L300 180 L300 200 Z" fill={colour("ground")} />
    </>
  );
}

function Tarn(props: SceneProps) {
  const { colour } = props;
  return (
    <>
      <rect width="300" height="100" fill={colour("sky")} />
      <Clouds {...props} />
      <path d="M0 104 L0 74 L52 46 L94 70 L150 34 L212 72 L262 52 L300 70 L300 104 Z" fill={colour("land")} />
      <Sea {...props} from={102} />
      <path d="M0 200 L0 178 L70 172 L120 184 L230 176 L300 184 L300 200 Z" fill={colour("ground")} />
    </>
  );
}

function Falls({ colour, left }: SceneProps) {
  const strands = left(["river", "sea"]);
  const leaves = left(["leaves"]);
  return (
    <>
      <rect width="300" height="200" fill={colour("ground")} />
      <path d="M0 0 H300 V58 Q250 80 214 60 T150 56 T86 66 T0 74 Z" fill={colour("leaves")} />
      <g fill={colour("leaves", 0.8)} opacity={leaves}>
        {[20, 62, 104, 148, 196, 240, 284].map((x, place) => (
          <ellipse key={x} cx={x} cy={30 + (place % 3) * 12} rx="13" ry="6" />
        ))}
      </g>
      <path d="M128 50 Q122 110 112 150 L190 150 Q178 108 172 50 Z" fill={colour("water")} />
      <g stroke={colour("water", -1.2)} strokeWidth="2" opacity={strands} fill="none">
        {[132, 142, 151, 160, 168].map((x, place) => (
          <path key={x} d={`M${x} 54 q ${place % 2 === 0 ? -6 : 5} 26 0 48 t ${place % 2 === 0 ? 3 : -4} 44`} />
        ))}
      </g>
      <path d="M60 150 Q150 138 236 150 L262 200 L30 200 Z" fill={colour("water", -0.4)} />
      {strands < 0.2 && <ellipse cx="150" cy="150" rx="66" ry="13" fill={colour("water", 0.4)} opacity="0.8" />}
      <path
        d="M0 200 V132 L34 120 L62 146 L52 200 Z M300 200 V124 L268 116 L240 148 L250 200 Z"
        fill={colour("ground", -0.5)}
      />
    </>
  );
}

const WALKERS = [
  [70, 158],
  [118, 148],
  [176, 162],
  [214, 150],
  [248, 166],
] as const;

function Square({ colour, left }: SceneProps) {
  const there = left(["people", "crowd"]);
  const smear = (1 - there) * 16;
  return (
    <>
      <rect width="300" height="70" fill={colour("sky")} />
      <path
        d="M0 128 V52 L32 34 L64 52 V44 L104 30 L140 46 V60 H176 V40 L222 26 L262 44 V56 H300 V128 Z"
        fill={colour("land")}
      />
      <g fill={colour("land", -1.4)}>
        {[14, 40, 80, 112, 152, 190, 216, 244, 276].map((x) => (
          <rect key={x} x={x} y="74" width="9" height="15" />
        ))}
      </g>
      <path d="M0 128 H300 V200 H0 Z" fill={colour("ground")} />
      <g stroke={colour("ground", -0.5)}>
        <path d="M0 146 H300 M0 168 H300 M150 128 L120 200 M220 128 L250 200 M80 128 L20 200" />
      </g>
      <path d="M148 128 V84 H152 V128 Z" fill={colour("land", -2)} />
      <circle cx="150" cy="80" r="6" fill={colour("sky", 0.5)} />
      <g fill={colour("people")} opacity={there}>
        {WALKERS.map(([x, y]) => (
          <g key={x}>
            <ellipse cx={x} cy={y - 16} rx={4.5 + smear} ry="11" />
            <circle cx={x} cy={y - 31} r="4" />
          </g>
        ))}
      </g>
    </>
  );
}

const SCENES: Record<Drawn, (props: SceneProps) => React.JSX.Element> = {
  mole: Mole,
  tarn: Tarn,
  falls: Falls,
  square: Square,
};
