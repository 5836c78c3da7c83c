import type {
  BenchOut,
  ChargingOut,
  DayOut,
  DialOut,
  ExamOut,
  ImportOut,
  Job,
  JobOut,
  LiveOut,
  PersonOut,
  PhotoOut,
  QuickIn,
  QuickOut,
  RigChoice,
  RaceOut,
  RunOut,
  Scenario,
  ScenarioCard,
  SealOut,
  SessionOut,
  Settings,
  SettingsOut,
  TrackOut,
  VisitIn,
  WhyOut,
} from "./client";
import { del, get, post, put } from "./client";

/** Everything that can be told the server, by name. What follows from it is asked for by `options`. */

const withFile = (file: File): FormData => {
  const form = new FormData();
  form.append("file", file);
  return form;
};

/** What a label's code stands for. */
export interface LabelOf {
  number: number;
  kind: string;
  name: string;
}

export const commands = {
  // Sheets
  createJob: (job: Job) => post<JobOut>("/jobs", job),
  copyJob: (key: string) => post<JobOut>(`/jobs?copy_of=${key}`, {}),
  importJob: (file: File, again = false) => post<JobOut>(again ? "/job-files?again=true" : "/job-files", withFile(file)),
  saveJob: (key: string, version: number, job: Job) => put<JobOut>(`/jobs/${key}`, { version, job }),
  /** `version`: the one that is to be taken back, so that two presses take back one edit. */
  undoJob: (key: string, version?: number) => post<JobOut>(`/jobs/${key}/undo`, version === undefined ? undefined : { version }),
  /** Edits that the server makes at a version of the sheet: a part exchanged, a fix taken, a template. */
  editJob: (key: string, what: "rig" | "apply" | "template", version: number, body: Record<string, unknown>) => post<JobOut>(`/jobs/${key}/${what}`, { version, ...body }),
  takeRigFile: (key: string, file: File) => post<JobOut>(`/jobs/${key}/rig-file`, withFile(file)),
  keepTemplate: (name: string, job: string) => post("/templates", { name, job }),
  dropTemplate: (id: number) => del(`/templates/${id}`),
  fitDay: (keys: string[], day_start: number) => post<DayOut>("/day/fit", { keys, day_start }),
  readDial: (text: string, atmosphere_pa: number) => post<DialOut>("/dial", { text, atmosphere_pa }),

  // A run
  touch: (key: string, body: Record<string, unknown>) => post(`/jobs/${key}/touches`, body),
  addReadings: (key: string, gauge: string, part: string | null, readings: { at: number; pa: number | null; dial?: string | null; key: string }[]) =>
    post(`/jobs/${key}/readings`, { gauge, part, readings, sent_at: Date.now() / 1000 }),
  importReadings: (key: string, file: File, commit: boolean, said: { time_unit?: string; day_first?: boolean; began?: string }) => {
    const asked = new URLSearchParams({ commit: String(commit) });
    for (const [name, value] of Object.entries(said)) asked.set(name, String(value));
    return post<ImportOut>(`/jobs/${key}/import?${asked}`, withFile(file));
  },
  standin: (key: string, body: { speed: number; second: boolean }) => post<LiveOut>(`/jobs/${key}/standin`, body),
  connectGauge: (key: string, where: { host: string; port: number; opens: string }) => post<LiveOut>(`/jobs/${key}/gauge`, where),
  disconnectGauge: (key: string) => del<LiveOut>(`/jobs/${key}/standin`),
  answerTest: (key: string, body: { test: string; outcome: string }) => post<WhyOut>(`/jobs/${key}/why/answers`, body),
  forgetAnswers: (key: string) => del<WhyOut>(`/jobs/${key}/why/answers`),
  silence: (key: string, alarm: string) => post(`/jobs/${key}/alarms/silence`, { key: alarm }),
  quickHold: (body: QuickIn) => post<QuickOut>("/hold", body),

  // Prove and charge
  benchPace: (key: string, speed: number) => post<BenchOut>(`/jobs/${key}/bench`, { speed }),
  benchTouch: (key: string, kind: string) => post<BenchOut>(`/jobs/${key}/bench/touches`, { kind }),
  benchOff: (key: string) => del<BenchOut>(`/jobs/${key}/bench`),
  scalePace: (key: string, speed: number) => post<ChargingOut>(`/jobs/${key}/scale`, { speed }),
  scaleTouch: (key: string, kind: string) => post<ChargingOut>(`/jobs/${key}/scale/touches`, { kind }),
  scaleOff: (key: string) => del<ChargingOut>(`/jobs/${key}/scale`),

  // The record
  addPhoto: (key: string, file: Blob, about: string, caption = "", keepPlace = false) => {
    const form = new FormData();
    form.append("file", file, "photo.jpg");
    form.append("about", about);
    form.append("caption", caption);
    if (keepPlace) form.append("keep_place", "true");
    return post<PhotoOut>(`/jobs/${key}/photos`, form);
  },
  makeKey: () => post("/settings/key"),
  keepLogo: (file: File) => put("/settings/logo", withFile(file)),
  dropLogo: () => del("/settings/logo"),
  dropPhoto: (key: string, sha256: string) => del(`/jobs/${key}/photos/${sha256}`),
  addVisit: (key: string, body: VisitIn) => post<SealOut>(`/jobs/${key}/visits`, body),
  seal: (key: string, by: string, reasons: Record<string, string>) => post<SealOut>(`/jobs/${key}/seal`, { by, reasons }),
  amend: (key: string, body: { by: string; what: string; before: string; after: string; reason: string }) => post<SealOut>(`/jobs/${key}/amendments`, body),
  restore: (file: File, anyway: boolean) => post<{ jobs: number; readings: number }>(`/restore?anyway=${anyway}`, withFile(file)),

  // Kit, settings, people
  addKit: (kind: string, name: string, values: Record<string, string | number | boolean> = {}) => post("/kit", { kind, name, values }),
  findKit: (code: string) => get<LabelOf>(`/kit/code/${encodeURIComponent(code.trim())}`),
  logKit: (id: number, kind: string) => post(`/kit/${id}/events`, { kind }),
  saveSettings: (settings: Settings) => put<SettingsOut>("/settings", settings),
  session: () => get<SessionOut>("/session"),
  signIn: (passphrase: string) => post<SessionOut>("/session", { passphrase }),
  signOut: () => del("/session"),
  addPerson: (name: string, licence: string) => post<PersonOut>("/people", { name, licence }),
  savePerson: (id: number, name: string, licence: string) => put<PersonOut>(`/people/${id}`, { name, licence }),
  dropPerson: (id: number) => del(`/people/${id}`),
  isHere: (id: number) => post<PersonOut>(`/people/${id}/here`),

  // Practice
  beginPractice: (scenario: string) => post<RunOut>("/practice/runs", { scenario }),
  beginExam: (level: number) => post<ExamOut>("/practice/exams", { level }),
  examJob: (key: string) => post<RunOut>(`/practice/exams/${key}/runs`),
  replayPractice: (key: string, before: number) => post<RunOut>(`/practice/runs/${key}/replays`, { before }),
  dropPractice: (key: string) => del(`/practice/runs/${key}`),
  pace: (key: string, speed: number) => post<RunOut>(`/practice/runs/${key}/pace`, { speed }),
  deed: (key: string, kind: string, choice?: RigChoice) => post<RunOut>(`/practice/runs/${key}/deeds`, { kind, choice }),
  track: (key: string, since: number) => get<TrackOut>(`/practice/runs/${key}/readings?since=${since}`),
  sandbox: (sheet: Job, hidden: object, rig: RigChoice | null) => post<RunOut>("/practice/sandboxes", { sheet, hidden, rig }),
  race: (sheet: Job, hidden: object, rigs: (RigChoice | null)[]) => post<RaceOut>("/practice/races", { sheet, hidden, rigs }),
  keepScenario: (scenario: Scenario) => post<ScenarioCard>("/practice/scenarios", scenario),
  takeScenario: (file: File) => post<ScenarioCard>("/practice/scenario-files", withFile(file)),
  dropScenario: (key: string) => del(`/practice/scenarios/${key}`),
};

/** Addresses that the browser itself opens: files to keep, the stream of news. */
export const hrefs = {
  news: (watch: string[]) => `/api/news${watch.length ? `?watch=${watch.join(",")}` : ""}`,
  logo: "/api/settings/logo",
  photo: (key: string, sha256: string) => `/api/jobs/${key}/photos/${sha256}`,
  jobFile: (key: string, file: "record.pdf" | "page.pdf" | "readings.csv" | "job.json" | "job.zip" | "rig.json" | "rig.svg") => `/api/jobs/${key}/${file}`,
  jobCalendar: (key: string, start: number) => `/api/jobs/${key}/day.ics?start=${start}`,
  dayCalendar: "/api/day.ics",
  labels: "/api/kit/labels.pdf",
  kitTable: "/api/kit.csv",
  backup: "/api/backup",
  certificate: (key: string, kind: "pdf" | "json") => `/api/practice/exams/${key}/certificate.${kind}`,
  scenario: (key: string) => `/api/practice/scenarios/${key}.json`,
};
