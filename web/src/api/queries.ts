import { queryOptions } from "@tanstack/react-query";
import { api, get } from "./client";

// Key, fetcher and type of each query in one place.

export const builds = () => queryOptions({ queryKey: ["builds"], queryFn: () => get(api.GET("/api/builds")) });

export const build = (id: string) =>
  queryOptions({
    queryKey: ["build", id],
    queryFn: () => get(api.GET("/api/builds/{id}", { params: { path: { id } } })),
    staleTime: Infinity,
    gcTime: 0,
  });

export const woofers = () => queryOptions({ queryKey: ["woofers"], queryFn: () => get(api.GET("/api/woofers")) });

export const families = () =>
  queryOptions({ queryKey: ["families"], queryFn: () => get(api.GET("/api/families")), staleTime: Infinity });
