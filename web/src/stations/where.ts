// Where each part of a design is changed: the station, and the view where it is not the first.

/** The longest beginning that fits decides. */
const WHERE: [beginning: string, at: string][] = [
  ["/brief", "brief"],
  ["/name", "brief"],
  ["/woofer", "woofer"],
  ["/array", "woofer"],
  ["/enclosure", "box"],
  ["/air", "box"],
  ["/cabinet", "cabinet"],
  ["/chain", "drive"],
  ["/programme", "drive"],
  ["/room", "room"],
];

/** The station of a field, as a path within a build; undefined for what stands above every station. */
export const whereIs = (pointer: string): string | undefined =>
  WHERE.find(([beginning]) => pointer === beginning || pointer.startsWith(`${beginning}/`))?.[1];
