import { type QueryKey, useQuery } from "@tanstack/react-query";
import { Refused, Unreachable } from "../api/client";
import { useSettled } from "../ui/useSettled";

/** An answer, and whether it is the answer to what is asked now. */
export interface Reply<Answer> {
  /** The answer to this very question; undefined until it is there. Only this is acted on. */
  answer: Answer | undefined;
  /** What may stand greyed meanwhile: the answer before it. */
  shown: Answer | undefined;
  /** Whether `shown` answers another question than the one that is asked now. */
  stale: boolean;
  /** Whether there is nothing to show yet, and nothing wrong either. */
  waiting: boolean;
  error: Error | null;
  again: () => void;
}

interface How {
  /** Ask when the hands rest: the question has not changed for so long [ms]. */
  settle?: number;
  /** Ask again by itself until somebody answers. */
  insist?: boolean;
  /** What the answer also hangs on, beside the question. */
  besides?: QueryKey;
  /** Whether the answer may change by itself; else it is asked once. */
  changes?: boolean;
}

const NOW = 0;
const AGAIN_MS = 2000;

/**
 * Ask a question of the one transport. A question that has changed cancels the one before it; an answer to another
 * question is never handed out as the answer. Null asks nothing.
 */
export function useAsk<Question, Answer>(
  name: string,
  question: Question | null,
  ask: (question: Question, signal: AbortSignal) => Promise<Answer>,
  how: How = {},
): Reply<Answer> {
  const settled = useSettled(question, how.settle ?? NOW);
  const rests = how.settle === undefined || JSON.stringify(settled) === JSON.stringify(question);
  const current = how.settle === undefined ? question : settled;
  const query = useQuery<Answer, Error, Answer>({
    queryKey: [name, current, ...(how.besides ?? [])],
    queryFn: ({ signal }) => {
      if (current === null) throw new Error("asked without a question");
      return ask(current, signal);
    },
    enabled: current !== null,
    // An answer to a question of another name is not even shown greyed.
    placeholderData: ((before: Answer | undefined, of: { queryKey: QueryKey } | undefined) =>
      of?.queryKey[0] === name && before !== undefined ? before : lastAnswer(name)) as never,
    ...(how.changes !== true && { staleTime: Infinity }),
    retry: how.insist === true ? true : (failures, error) => !(error instanceof Refused) && failures < 1,
    retryDelay: how.insist === true ? AGAIN_MS : AGAIN_MS / 4,
  });
  const none = question === null;
  const stale = !rests || query.isPlaceholderData || (query.error !== null && query.data !== undefined);
  return {
    answer: none || stale || query.error ? undefined : query.data,
    shown: none || query.error instanceof Refused ? undefined : query.data,
    stale: !none && stale,
    waiting: !none && query.data === undefined && query.error === null,
    error: none || !rests ? null : query.error,
    again: () => void query.refetch(),
  };
}

/** Whether nothing more is to come of a question: answered, refused, or not asked at all. */
export function isWorkedOut({ stale, waiting, error }: Reply<unknown>): boolean {
  return !stale && !waiting && !(error instanceof Unreachable);
}

/** The latest answers of the visit before, by the question's name: shown greyed until a fresh one is there. */
const last = new Map<string, unknown>();

export function remember(name: string, answer: unknown): void {
  last.set(name, answer);
}

export function forgetAnswers(): void {
  last.clear();
}

function lastAnswer(name: string): unknown {
  return last.get(name);
}
