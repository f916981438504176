import { infiniteQueryOptions, queryOptions, type QueryClient, type QueryKey } from "@tanstack/react-query";
import { api, get } from "./client";

// Key, fetcher and type of each query in one place.

/**
 * Asks again. A first answer that is still on its way was asked for before: it is not waited for, as the library would, but dropped.
 */
export async function askAgain(client: QueryClient, queryKey: QueryKey) {
  await client.cancelQueries({ queryKey });
  await client.invalidateQueries({ queryKey });
}

export const builds = () => queryOptions({ queryKey: ["builds"], queryFn: () => get(api.GET("/api/builds")) });

/** Those that are put away. */
export const buildsAway = () =>
  queryOptions({
    queryKey: ["builds away"],
    queryFn: () => get(api.GET("/api/builds", { params: { query: { away: true } } })),
  });

/** What a build is recognised by, as it was last saved. */
export const card = (id: string, saved: string) =>
  queryOptions({
    queryKey: ["card", id, saved],
    queryFn: () => get(api.GET("/api/builds/{id}/card", { params: { path: { id } } })),
    staleTime: Infinity,
    retry: false,
  });

export const tour = () =>
  queryOptions({ queryKey: ["tour"], queryFn: () => get(api.GET("/api/tour")), staleTime: Infinity });

export const build = (id: string) =>
  queryOptions({
    queryKey: ["build", id],
    queryFn: () => get(api.GET("/api/builds/{id}", { params: { path: { id } } })),
    staleTime: Infinity,
    gcTime: 0,
  });

export const woofers = () => queryOptions({ queryKey: ["woofers"], queryFn: () => get(api.GET("/api/woofers")) });

export const woofer = (id: string) =>
  queryOptions({
    queryKey: ["woofer", id],
    queryFn: () => get(api.GET("/api/woofers/{id}", { params: { path: { id } } })),
  });

export const amplifiers = () =>
  queryOptions({ queryKey: ["amplifiers"], queryFn: () => get(api.GET("/api/amplifiers")) });

export const rooms = () => queryOptions({ queryKey: ["rooms"], queryFn: () => get(api.GET("/api/rooms")) });

export const measurements = (build: string) =>
  queryOptions({
    queryKey: ["measurements", build],
    queryFn: () => get(api.GET("/api/builds/{id}/measurements", { params: { path: { id: build } } })),
    enabled: !!build,
  });

export const learnedEnds = (build: string) =>
  queryOptions({
    queryKey: ["learned", build],
    queryFn: () => get(api.GET("/api/builds/{id}/learned", { params: { path: { id: build } } })),
  });

export const measuredCurve = (id: string, version: number) =>
  queryOptions({
    queryKey: ["measured", id, version],
    queryFn: () => get(api.GET("/api/measurements/{id}/curve", { params: { path: { id } } })),
    staleTime: Infinity,
  });

export const trial = (build: string) =>
  queryOptions({
    queryKey: ["trial", build],
    queryFn: () => get(api.GET("/api/builds/{id}/trial", { params: { path: { id: build } } })),
    refetchInterval: (query) => (query.state.data?.state === "running" ? 350 : false),
  });

export const rankingRules = () =>
  queryOptions({
    queryKey: ["ranking"],
    queryFn: () => get(api.GET("/api/trials/rules")),
    staleTime: Infinity,
  });

export const pipes = () =>
  queryOptions({ queryKey: ["pipes"], queryFn: () => get(api.GET("/api/pipes")), staleTime: Infinity });

export const materials = () =>
  queryOptions({
    queryKey: ["materials"],
    queryFn: () => get(api.GET("/api/materials")),
    staleTime: Infinity,
  });

export const purposes = () =>
  queryOptions({ queryKey: ["purposes"], queryFn: () => get(api.GET("/api/purposes")), staleTime: Infinity });

export const families = () =>
  queryOptions({ queryKey: ["families"], queryFn: () => get(api.GET("/api/families")), staleTime: Infinity });

export type LogFilter = { words: string; kind: string };

export const log = (build: string, { words, kind }: LogFilter) =>
  infiniteQueryOptions({
    queryKey: ["log", build, words, kind],
    queryFn: ({ pageParam }) =>
      get(
        api.GET("/api/builds/{id}/log", {
          params: {
            path: { id: build },
            query: { words: words || undefined, kind: kind || undefined, before: pageParam || undefined },
          },
        }),
      ),
    initialPageParam: "",
    getNextPageParam: (page) => page.next ?? undefined,
  });

export const timeline = (build: string) =>
  queryOptions({
    queryKey: ["timeline", build],
    queryFn: () => get(api.GET("/api/builds/{id}/timeline", { params: { path: { id: build } } })),
  });

export const listening = (build: string) =>
  queryOptions({
    queryKey: ["listening", build],
    queryFn: () => get(api.GET("/api/builds/{id}/listening", { params: { path: { id: build } } })),
    // while one runs its listeners answer from their phones
    refetchInterval: (query) => (query.state.data?.some((s) => !s.ended_at) ? 2000 : false),
  });

export const programme = () =>
  queryOptions({
    queryKey: ["programme"],
    queryFn: () => get(api.GET("/api/programme")),
    staleTime: Infinity,
  });

export const forListeners = (code: string) =>
  queryOptions({
    queryKey: ["listen", code],
    queryFn: () => get(api.GET("/api/listen/{code}", { params: { path: { code } } })),
  });

export const myHearings = (code: string, key: string) =>
  queryOptions({
    queryKey: ["listen", code, "hearings", key],
    queryFn: () => get(api.GET("/api/listen/{code}/hearings", { params: { path: { code }, query: { key } } })),
    enabled: !!key,
    refetchInterval: (query) => (query.state.data?.ended ? false : 1500),
  });

export const forHelper = (code: string, key: string) =>
  queryOptions({
    queryKey: ["listen", code, "helper", key],
    queryFn: () => get(api.GET("/api/listen/{code}/helper/{key}", { params: { path: { code, key } } })),
    refetchInterval: 2000,
  });

export const lessons = (query: { family?: string; woofer?: string; board?: string; aside?: string }) =>
  queryOptions({
    queryKey: ["lessons", query],
    queryFn: () => get(api.GET("/api/lessons", { params: { query } })),
  });
