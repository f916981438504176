import createClient from "openapi-fetch";
import type { components, paths } from "./types";

type Schemas = components["schemas"];
export type Design = Schemas["Design"];
export type Evaluation = Schemas["Evaluation"];
export type Finding = Schemas["Finding"];
export type Remedy = Schemas["Remedy"];
export type Ledger = Schemas["Ledger"];
export type Figure = Schemas["Figure"];
export type Suggestion = Schemas["Suggestion"];
export type Woofer = Schemas["Woofer"];
export type ShelfWoofer = Schemas["ShelfWoofer"];
export type ParameterSet = Schemas["ParameterSet"];
export type ShelfLine = Schemas["ShelfLine"];
export type ShelfRow = Schemas["ShelfRow"];
export type Derived = Schemas["Derived"];
export type Preview = Schemas["Preview"];
export type ImportStep = Schemas["Step"];
export type SectionResult = Schemas["SectionResult"];
export type Shift = Schemas["Shift"];
export type Trial = Schemas["Trial"];
export type TrialResult = Schemas["TrialResult"];
export type Goal = Schemas["Goal"];
export type Outcome = Schemas["Outcome"];
export type ArrayResult = Schemas["ArrayResult"];
export type Workshop = Schemas["Workshop"];
export type Kit = Schemas["Kit"];
export type Tool = Schemas["Tool"];
export type LevelRead = Schemas["LevelRead"];
export type Card = Schemas["Card"];
export type TourTask = Schemas["TourTask"];
export type TourProgress = Schemas["TourProgress"];
export type Begin = Schemas["Begin"];
export type Begun = Schemas["Begun"];
export type PurposeInfo = Schemas["PurposeInfo"];
export type CabinetForm = Schemas["CabinetForm"];
export type Habits = Schemas["Habits"];
export type WooferRecord = Schemas["WooferRecord"];
export type Amplifier = Schemas["Amplifier"];
export type ShelfAmplifier = Schemas["ShelfAmplifier"];
export type AmplifierRecord = Schemas["AmplifierRecord"];
export type AmplifiersImported = Schemas["AmplifiersImported"];
export type Suits = Schemas["Suits"];
export type BuildSummary = Schemas["BuildSummary"];
export type CameIn = Schemas["CameIn"];
export type BuildDetail = Schemas["BuildDetail"];
export type Revision = Schemas["Revision"];
export type Motion = Schemas["Motion"];
export type Band = Schemas["Band"];
export type Sought = Schemas["Sought"];
export type Seek = Schemas["Seek"];
export type Airway = Schemas["Airway"];
export type PortDesign = Schemas["PortDesign"];
export type RadiatorDesign = Schemas["RadiatorDesign"];
export type Trade = Schemas["PortTrade"];
export type Trim = Schemas["Trim"];
export type Quiet = Schemas["Quiet"];
export type RoomView = Schemas["RoomView"];
export type RoomRecord = Schemas["RoomRecord"];
export type RoomMap = Schemas["RoomMap"];
export type MapWish = Schemas["MapWish"];
export type Arrangements = Schemas["Arrangements"];
export type RoomMode = Schemas["RoomMode"];
export type RoomModePicture = Schemas["RoomModePicture"];
export type FamiliesInRoom = Schemas["FamiliesInRoom"];
export type DriveView = Schemas["DriveView"];
export type LowCutChoice = Schemas["LowCutChoice"];
export type PowerView = Schemas["PowerView"];
export type PartsFound = Schemas["PartsFound"];
export type FlattenResult = Schemas["FlattenResult"];
export type ChamberModes = Schemas["ChamberModes"];
export type ModeRow = Schemas["ModeRow"];
export type ModePicture = Schemas["ModePicture"];
export type Panel = Schemas["Panel"];
export type Panels = Schemas["Panels"];
export type Cutting = Schemas["Cutting"];
export type Stock = Schemas["Stock"];
export type CabinetView = Schemas["CabinetView"];
export type CabinetBoard = CabinetView["boards"][number];
export type MountedPart = Schemas["MountedPart"];
export type Clearance = Schemas["Clearance"];
export type FaceView = Schemas["FaceView"];
export type FoldView = Schemas["FoldView"];
export type Building = Schemas["Building"];
export type WorkPlan = Schemas["WorkPlan"];
export type Prices = NonNullable<WorkPlan["prices"]>;
export type BuildStep = Schemas["BuildStep"];
export type Bill = Schemas["Bill"];
export type Spent = Schemas["Spent"];
export type DaysPlan = Schemas["DaysPlan"];
export type DrawingSheet = Schemas["DrawingSheet"];
export type ListeningSession = Schemas["ListeningSession"];
export type ListeningTest = Schemas["ListeningTest"];
export type ListeningOutcome = Schemas["ListeningOutcome"];
export type SessionShown = Schemas["SessionShown"];
export type ForListeners = Schemas["ForListeners"];
export type MyHearing = Schemas["MyHearing"];
export type MyHearings = Schemas["MyHearings"];
export type ForHelper = Schemas["ForHelper"];
export type ListeningSlip = Schemas["ListeningSlip"];
export type LevelMatch = Schemas["LevelMatch"];
export type PlayedThrough = Schemas["PlayedThrough"];
export type Programme = Schemas["ListeningProgramme"];
export type Mistake = Schemas["Mistake"];
export type Mistakes = Schemas["Mistakes"];
export type MistakeCure = Schemas["MistakeCure"];
export type LogEntry = Schemas["LogEntry"];
export type LogRecord = Schemas["LogRecord"];
export type LogPage = Schemas["LogPage"];
export type TimelineEvent = Schemas["TimelineEvent"];
export type MeasurementRecord = Schemas["MeasurementRecord"];
export type Measurement = Schemas["Measurement"];
export type Taken = NonNullable<NonNullable<Measurement["about"]>["taken"]>;
export type CookedCurve = Schemas["CookedCurve"];
export type CurvePreview = Schemas["CurvePreview"];
export type Reading = Schemas["ColumnReading"];
export type Drawn = Schemas["DrawnCurve"];
export type Proof = Schemas["Proof"];
export type Proved = Schemas["Proved"];
export type Offered = Schemas["Offered"];
export type RecordingWish = Schemas["RecordingWish"];
export type WooferProof = Schemas["WooferProof"];
export type WooferWish = Schemas["WooferWish"];
export type MeasuringPlan = Schemas["MeasuringPlan"];
export type Flaw = Schemas["Flaw"];
export type Verdict = Schemas["PracticeVerdict"];
export type FamilyInfo = Schemas["FamilyInfo"];
/** Words and quantities; `lib/said.ts` says it. */
export type Text = Schemas["Text"];
export type Problem = Schemas["Problem"];
export type FieldProblem = Schemas["FieldProblem"];

export const api = createClient<paths>({ baseUrl: "" });

/** The server's answer when it is not what was asked for; `problem` is missing when there was no answer. */
export class Refused extends Error {
  constructor(readonly problem: Problem | undefined) {
    super(problem?.detail ?? "the server does not answer");
  }
}

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** The data of an answer, or Refused. */
export async function get<T>(call: Promise<Answer<T>>): Promise<T> {
  const answer = await call.catch((cause: unknown) => {
    if (cause instanceof DOMException && cause.name === "AbortError") throw cause;
    throw new Refused(undefined);
  });
  if (answer.data !== undefined) return answer.data;
  if (answer.response.status === 204) return undefined as T;
  const error = answer.error;
  throw new Refused(typeof error === "object" && error !== null ? (error as Problem) : undefined);
}
