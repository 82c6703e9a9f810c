import type { ReactNode } from "react";
import { Button } from "react-bootstrap";
import { ErrorBoundary, type FallbackProps } from "react-error-boundary";
import { useLocation } from "wouter";
import { everythingKept } from "../state/kept";
import { saveAs } from "../ui/saveAs";
import { words } from "../words";

/** A screen in its place, and a way on where it breaks; never a white page. */
export function Place({ children }: { children: ReactNode }) {
  const [pathname] = useLocation();
  return (
    <ErrorBoundary FallbackComponent={Broken} resetKeys={[pathname]}>
      {children}
    </ErrorBoundary>
  );
}

function Broken({ error, resetErrorBoundary }: FallbackProps) {
  const [, navigate] = useLocation();
  const say = words.keeping.screen;
  const save = async () => saveAs("jackstaff-kept.json", await everythingKept());
  return (
    <div className="empty" role="alert">
      <h1>{say.title}</h1>
      <p>{say.kept}</p>
      <p className="quiet">{error instanceof Error ? error.message : String(error)}</p>
      <div className="side-by-side">
        <Button
          variant="signal"
          onClick={() => {
            navigate("/");
            resetErrorBoundary();
          }}
        >
          {words.toBench}
        </Button>
        <Button variant="quiet" onClick={() => void save()}>
          {words.keeping.save}
        </Button>
      </div>
    </div>
  );
}
