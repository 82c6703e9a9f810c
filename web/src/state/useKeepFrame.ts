import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { answer, api, Refused } from "../api/client";
import { owner } from "./owner";
import { say } from "../ui/say";
import { words } from "../words";
import { drop, type Frame, put } from "./frames";

/** Write a frame anew; every list and lesson that hangs on it is asked again once it is kept. */
export function useKeepFrame(): (frame: Frame) => void {
  const client = useQueryClient();
  return (frame) => {
    client.setQueryData(["frames", "one", frame.id], frame);
    put(frame, owner());
  };
}

/** Removing is at once and can be undone: the frame comes back under its own key. */
export function useRemoveFrame(): (frame: Frame) => Promise<void> {
  const client = useQueryClient();
  const navigate = useNavigate();
  return async (frame) => {
    if (owner() !== null) {
      try {
        await answer(api.DELETE("/api/frames/{key}", { params: { path: { key: frame.id } } }));
      } catch (error) {
        // Never sent, so there is nothing to forget there; anything else stays as it is and says why.
        if (!(error instanceof Refused && error.status === 404)) {
          say({ text: error instanceof Refused ? error.message : words.trouble.unreachable });
          return;
        }
      }
    }
    drop(frame.id);
    void navigate("/log");
    await client.invalidateQueries({ queryKey: ["frames"] });
    say({ text: words.log.removed, action: { label: words.log.undo, act: () => put(frame, owner()) } });
  };
}
