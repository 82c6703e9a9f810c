import { useQuery } from "@tanstack/react-query";
import { answer, api, type Schemas } from "../api/client";
import { asForm } from "../api/form";
import type { Frame } from "../state/frames";

export type Digest = Schemas["DigestAnswer"];

/** The picture kept beside a frame, where there is one. */
export function usePicture(frame: Frame | undefined) {
  return useQuery({
    queryKey: ["frames", "picture", frame?.id],
    queryFn: () => answer(api.GET("/api/frames/{key}/picture", { params: { path: { key: frame?.id ?? "" } } })),
    enabled: frame?.pictured === true,
    staleTime: Infinity,
    retry: false,
  });
}

export function keepPicture(id: string, file: File): Promise<Digest> {
  return answer(api.POST("/api/frames/{key}/picture", { params: { path: { key: id } }, ...asForm({ file }) }));
}

export function share(part: number): string {
  if (part === 0) return "0 %";
  return part < 0.001 ? "under 0.1 %" : `${(part * 100).toFixed(1)} %`;
}
