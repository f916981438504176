import type { LogFilter } from "../../api/queries";

export const EVERYTHING: LogFilter = { words: "", kind: "" };
