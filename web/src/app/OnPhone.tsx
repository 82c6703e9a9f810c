import { usePhone } from "../questions/account";
import { accountWords } from "../words/account";

const say = accountWords.phone;

/** The way onto a phone: the address, and the same as a code for its camera. */
export function OnPhone() {
  const found = usePhone();
  if (!found) return null;
  const { address, code, own_certificate: own } = found;
  return (
    <section className="take-along on-phone" aria-label={say.title}>
      <h3>{say.title}</h3>
      {address == null ? (
        <p className="mb-0">{say.onlyHere}</p>
      ) : (
        <div className="on-phone-way">
          <Code rows={code} label={say.code(address)} />
          <div>
            <p className="mb-0">
              {say.point} <strong>{address}</strong>
            </p>
            {own && (
              <p className="mb-0">
                {say.trust}{" "}
                <a className="plain-link" href="/authority.crt">
                  {say.certificate}
                </a>
              </p>
            )}
          </div>
        </div>
      )}
    </section>
  );
}

/** Dark on light, in Red on red: a camera looks for the difference alone. */
function Code({ rows, label }: { rows: string[]; label: string }) {
  const size = rows.length + 2 * QUIET;
  const dark = rows.flatMap((row, y) =>
    Array.from(row, (bit, x) => (bit === "1" ? `M${x + QUIET} ${y + QUIET}h1v1h-1z` : "")),
  );
  return (
    <svg
      className="on-phone-code"
      viewBox={`0 0 ${size} ${size}`}
      role="img"
      aria-label={label}
      shapeRendering="crispEdges"
    >
      <rect width={size} height={size} className="code-ground" />
      <path d={dark.join("")} className="code-dark" />
    </svg>
  );
}

/** The margin a code needs to be found [modules]. */
const QUIET = 4;
