import { heard } from "../lib/reach";

import { PAGE } from "./page";
import type { components } from "./schema";

/** The API, typed from its own description. */
type S = components["schemas"];
export type Job = S["Job"];
export type JobOut = S["JobOut"];
export type YardRow = S["YardRow"];
export type ProposalOut = S["ProposalOut"];
export type ComingOut = S["ComingOut"];
export type PumpOut = S["PumpOut"];
export type StageState = S["StageState"];
export type SystemOut = S["SystemOut"];
export type PlanOut = S["PlanOut"];
export type Part = S["PartOut"];
export type ForesightOut = S["ForesightOut"];
export type ProveOut = S["ProveOut"];
export type GateOut = S["GateOut"];
export type BenchOut = S["BenchOut"];
export type ProofStageOut = S["ProofStageOut"];
export type KitCard = S["KitCard"];
export type StageReading = S["StageReading"];
export type ChecksOut = S["ChecksOut"];
export type ClearOut = S["ClearOut"];
export type CyclesOut = S["CyclesOut"];
export type Alarm = S["Alarm"];
export type RingOut = S["RingOut"];
export type WhyOut = S["WhyOut"];
export type OfferOut = S["OfferOut"];
export type StepOut = S["StepOut"];
export type LiveOut = S["LiveOut"];
export type NextTouch = S["NextOut"];
export type SeriesOut = S["SeriesOut"];
export type TouchOut = S["TouchOut"];
export type VerdictOut = S["VerdictOut"];
export type ChargingOut = S["ChargingOut"];
export type RunningsOut = S["RunningsOut"];
export type SealOut = S["SealOut"];
export type PhotoOut = S["PhotoOut"];
export type VisitIn = S["VisitIn"];
export type VisitOut = S["VisitOut"];
export type HistoryOut = S["HistoryOut"];
export type QuickOut = S["QuickOut"];
export type QuickIn = S["QuickIn"];
export type ImportOut = S["ImportOut"];
export type Catalogue = S["CatalogueOut"];
export type Choice = S["Choice"];
export type Problem = S["Problem"];
export type CautionOut = S["CautionOut"];
export type RigDoc = S["Rig"];
export type RigPiece = NonNullable<RigDoc["parts"]>[number];
export type ScopeDoc = S["Scope"];
export type Section = S["Section"];
export type Link = S["Link"];
export type Port = S["Port"];
export type Drawing = S["DrawingOut"];
export type Round = S["RoundOut"];
export type Moment = S["MomentOut"];
export type Finding = S["FindingOut"];
export type Slot = S["SlotOut"];
export type ChangesOut = S["ChangesOut"];
export type BestOut = S["BestOut"];
export type PatternOut = S["PatternOut"];
export type RigPlan = S["RigPlan"];
export type CarryOut = S["CarryOut"];
export type DayJob = S["DayJob"];
export type DayOut = S["DayOut"];
export type PurchasesOut = S["PurchasesOut"];
export type OwnTemplate = S["OwnTemplateOut"];
export type ExamOut = S["ExamOut"];
export type LearnerOut = S["LearnerOut"];
export type PracticeOut = S["PracticeOut"];
export type ScenarioCard = S["ScenarioCard"];
export type RunOut = S["RunOut"];
export type RigsOut = S["RigsOut"];
export type TrackOut = S["TrackOut"];
export type DebriefOut = S["DebriefOut"];
export type JudgedOut = S["JudgedOut"];
export type PossibleOut = S["PossibleOut"];
export type RaceOut = S["RaceOut"];
export type LapOut = S["LapOut"];
export type Scenario = S["Scenario"];
export type RigChoice = S["RigChoice"];
export type PressureNote = S["PressureOut"];
export type WaterCurve = S["WaterOut"];
export type HoseRow = S["HoseRow"];
export type HoseAnswer = S["HoseAnswer"];
export type CordAnswer = S["CordOut"];
export type AltitudeNote = S["AltitudeOut"];
export type LeakNote = S["LeakOut"];
export type LineRow = S["LineRow"];
export type LinesNote = S["LinesOut"];
export type NotesPages = S["PagesOut"];
export type PersonOut = S["PersonOut"];
export type SessionOut = S["SessionOut"];
export type HealthOut = S["HealthOut"];
export type DialOut = S["DialOut"];
export type DisplayUnit = S["DisplayUnit"];
export type Settings = S["Settings"];
export type SettingsOut = S["SettingsOut"];

/** A request that did not succeed: the problem as the server told it, or that it could not be reached. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem,
  ) {
    super(problem.detail);
  }
}

/** Told to the page when the server does not know this browser any more. */
export const SIGNED_OUT = "rough-draw-signed-out";

let csrf = "";

/** The word that goes with every change where a passphrase is needed: kept in memory, never stored. */
export const setCsrf = (word: string): void => {
  csrf = word;
};

/** Answers that the page has, by path: the server sends one again only where it has changed. What was not asked for longest goes first. */
const had = new Map<string, { tag: string; answer: unknown }>();
const MOST_KEPT = 80;

function keep(path: string, tag: string | null, answer: unknown): void {
  had.delete(path);
  if (!tag) return;
  had.set(path, { tag, answer });
  if (had.size > MOST_KEPT) had.delete(had.keys().next().value!);
}

/** What the page has heard belongs to who was signed in. */
globalThis.addEventListener(SIGNED_OUT, () => had.clear());

async function ask<T>(method: string, path: string, body?: unknown): Promise<T> {
  const form = body instanceof FormData;
  const known = method === "GET" ? had.get(path) : undefined;
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers: { ...(body === undefined || form ? {} : { "Content-Type": "application/json" }), ...(csrf && method !== "GET" ? { "X-CSRF-Token": csrf } : {}), ...(method === "GET" ? {} : { "X-Page": PAGE }), ...(known && { "If-None-Match": known.tag }) },
      // An edit on its way goes through though the page is left.
      keepalive: method === "PUT",
      body: body === undefined ? undefined : form ? body : JSON.stringify(body),
    });
  } catch {
    heard(false);
    throw new ApiError(0, {
      type: "about:blank",
      title: "No answer",
      status: 0,
      detail: "The server cannot be reached. What you typed is still here; try again.",
      faults: [],
    });
  }
  heard(true);
  if (known && response.status === 304) {
    keep(path, known.tag, known.answer);
    return known.answer as T;
  }
  if (response.status === 401) globalThis.dispatchEvent(new Event(SIGNED_OUT));
  if (!response.ok) {
    const problem = (await response.json().catch(() => null)) as Problem | null;
    throw new ApiError(
      response.status,
      problem ?? { type: "about:blank", title: "Not possible", status: response.status, detail: response.statusText, faults: [] },
    );
  }
  if (response.status === 204) return undefined as T;
  const answer = (await response.json()) as T;
  if (method === "GET") keep(path, response.headers.get("ETag"), answer);
  return answer;
}

export const get = <T>(path: string) => ask<T>("GET", path);
export const post = <T>(path: string, body?: unknown) => ask<T>("POST", path, body);
export const put = <T>(path: string, body: unknown) => ask<T>("PUT", path, body);
export const del = <T>(path: string) => ask<T>("DELETE", path);
