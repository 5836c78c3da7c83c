import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";

import type { DisplayUnit, Settings, SettingsOut } from "../api/client";
import { commands } from "../api/commands";
import { familyOf, options } from "../api/options";
import { settle } from "../api/settle";
import { MICRON_PA } from "./format";
import { fixed, plain, scientific, significant, type Numbers } from "./numbers";

/** Figures in the units a person reads. The factors come from the server; nothing else is computed here. */

export type Dim =
  | "pressure"
  | "gauge"
  | "temperature"
  | "step"
  | "flow"
  | "length"
  | "mass"
  | "grams"
  | "adder"
  | "volume"
  | "barometer"
  | "capacity"
  | "rise";

/** Kinds of figure that follow another one's choice: a difference of temperatures is in the degrees that are chosen. */
const FOLLOWS: Partial<Record<Dim, Dim>> = { step: "temperature", grams: "mass", adder: "mass" };

const FALLBACK: Record<Dim, DisplayUnit> = {
  pressure: { key: "micron", label: "µ", factor: 1 / MICRON_PA, offset: 0, digits: 3 },
  gauge: { key: "psig", label: "psig", factor: 1 / 6894.757293168, offset: 0, digits: 3 },
  temperature: { key: "c", label: "°C", factor: 1, offset: 0, digits: 3 },
  step: { key: "c", label: "°C", factor: 1, offset: 0, digits: 3 },
  flow: { key: "cfm", label: "CFM", factor: 2118.88, offset: 0, digits: 3 },
  length: { key: "m", label: "m", factor: 1, offset: 0, digits: 3 },
  mass: { key: "kg", label: "kg", factor: 1, offset: 0, digits: 3 },
  grams: { key: "kg", label: "g", factor: 1, offset: 0, digits: 2 },
  adder: { key: "kg", label: "g/m", factor: 1, offset: 0, digits: 2 },
  volume: { key: "l", label: "l", factor: 1, offset: 0, digits: 3 },
  barometer: { key: "hpa", label: "hPa", factor: 1, offset: 0, digits: 4 },
  rise: { key: "micron", label: "µ/s", factor: 1, offset: 0, digits: 2 },
  capacity: { key: "kw", label: "kW", factor: 1, offset: 0, digits: 3 },
};

export interface Units {
  settings: Settings;
  /** How this person writes numbers. */
  numbers: Numbers;
  of: (dim: Dim) => DisplayUnit;
  label: (dim: Dim) => string;
  /** From the document's unit to what is shown, and back. */
  shown: (dim: Dim, value: number) => number;
  stored: (dim: Dim, shown: number) => number;
  /** A figure alone, and a figure with its unit. */
  figure: (dim: Dim, value: number) => string;
  say: (dim: Dim, value: number) => string;
  /** A figure off a gauge that shows steps of `resolution` µ: with tenths where it gives them. */
  reading: (pa: number, resolution?: number) => string;
  /** A rate of pressure, from µ/s, with its sign or without. */
  rate: (micronPerSecond: number, signed?: boolean) => string;
  /** A small weight, from grams: in the larger unit where it is many. */
  grams: (g: number) => string;
  /** Numbers of nothing: with so many places, with about so many digits, or with a power of ten. */
  fixed: (value: number, places: number) => string;
  significant: (value: number, digits: number) => string;
  scientific: (value: number) => string;
  whole: (value: number) => string;
  plain: (value: number, places: number) => string;
  /** A word of the page as it is spelled where this person reads. */
  spelled: (word: Spelled) => string;
}

/** Words that the two Englishes spell apart; everything else that differs comes from the server. */
const BRITISH = { vapor: "vapour", License: "Licence", license: "licence" };
export type Spelled = keyof typeof BRITISH;

function make(out: SettingsOut | undefined): Units {
  const settings = out?.settings ?? ({} as Settings);
  const numbers = settings.numbers ?? "point";
  const of = (dim: Dim): DisplayUnit =>
    dim === "rise" ? ofRise() : out?.units[dim]?.find((u) => u.key === (settings as Record<string, unknown>)[FOLLOWS[dim] ?? dim]) ?? FALLBACK[dim];
  const ofRise = (): DisplayUnit => {
    const p = of("pressure");
    return { ...p, label: `${p.label}/s`, factor: p.factor * MICRON_PA };
  };
  const shown = (dim: Dim, value: number) => value * of(dim).factor + (of(dim).offset ?? 0);
  const stored = (dim: Dim, value: number) => (value - (of(dim).offset ?? 0)) / of(dim).factor;
  const micron = () => of("pressure").key === "micron";
  const fig = (dim: Dim, value: number): string => {
    const v = shown(dim, value);
    const unit = of(dim);
    if (dim === "pressure" && micron()) return fixed(v >= 20_000 ? Math.round(v / 100) * 100 : v, v < 10 ? 1 : 0, numbers);
    if (dim === "temperature" || dim === "step") return plain(v, 1, numbers);
    if (dim === "gauge") return fixed(v, unit.key === "psig" ? (Math.abs(v) >= 10 || v === 0 ? 0 : 1) : unit.key === "bar" ? (Math.abs(v) >= 1 ? 1 : 2) : 0, numbers);
    if (dim === "pressure" || dim === "barometer") return significant(v, unit.digits ?? 3, numbers);
    return plain(Number(v.toPrecision(unit.digits ?? 3)), 6, numbers);
  };
  const say = (dim: Dim, value: number): string => {
    if (dim === "mass" && of("mass").key === "lb-oz") {
      const ounces = Math.round(shown("mass", value) * 160) / 10;
      const pounds = Math.floor(ounces / 16 + 1e-9);
      const rest = `${plain(ounces - 16 * pounds, 1, numbers)} oz`;
      return pounds ? `${fixed(pounds, 0, numbers)} lb ${rest}` : rest;
    }
    return `${fig(dim, value)} ${of(dim).label}`;
  };
  const grams = (g: number): string => {
    const many = of("mass").key === "kg" ? 1000 : 16 * 28.349523;
    // Nothing under a hundredth is weighed, or matters.
    if (g > 0 && shown("grams", g) < 0.01) return `< ${plain(0.01, 2, numbers)} ${of("grams").label}`;
    if (g >= 100_000) return `over ${say("mass", 100)}`;
    return g >= many ? `${significant(shown("mass", g / 1000), 2, numbers)} ${of("mass").key === "kg" ? "kg" : "lb"}` : `${plain(Number(shown("grams", g).toPrecision(2)), 2, numbers)} ${of("grams").label}`;
  };
  const reading = (pa: number, resolution = 1): string => {
    const v = shown("pressure", pa);
    const tenths = resolution < 1 || Math.abs(v - Math.round(v)) > 0.04;
    return micron() && v < 1000 && tenths ? fixed(v, 1, numbers) : fig("pressure", pa);
  };
  const rate = (micronPerSecond: number, signed = true): string => {
    const unit = of("pressure");
    const v = Math.abs(micronPerSecond * MICRON_PA * unit.factor);
    // Two places of µ/s is as fine as a rise is ever read.
    const none = Math.abs(micronPerSecond) < 0.005;
    const text = micron() ? fixed(v, v >= 10 ? 0 : 2, numbers) : none ? "0" : significant(v, 2, numbers);
    // What is no figure has no sign.
    const sign = none ? "" : micronPerSecond < 0 ? "−" : signed ? "+" : "";
    return `${sign}${text} ${unit.label}/s`;
  };
  return {
    settings,
    numbers,
    of,
    label: (d) => of(d).label,
    shown,
    stored,
    figure: fig,
    say,
    reading,
    grams,
    rate,
    fixed: (v, places) => fixed(v, places, numbers),
    significant: (v, digits) => significant(v, digits, numbers),
    scientific: (v) => scientific(v, numbers),
    whole: (v) => fixed(v, 0, numbers),
    plain: (v, places) => plain(v, places, numbers),
    spelled: (word) => (settings.english === "uk" ? BRITISH[word] : word),
  };
}

/** Whole sets of units, taken at a stroke. */
export const SETS = {
  us: { pressure: "micron", gauge: "psig", temperature: "f", flow: "cfm", length: "ft", mass: "lb-oz", volume: "ft3", capacity: "tons", barometer: "inhg" },
  metric: { pressure: "pa", gauge: "bar", temperature: "c", flow: "m3-h", length: "m", mass: "kg", volume: "l", capacity: "kw", barometer: "hpa" },
} as const satisfies Record<string, Partial<Settings>>;

/** The set that is in use, or that it is none of them. */
export const setOf = (settings: Settings): keyof typeof SETS | "mixed" =>
  (["us", "metric"] as const).find((name) => Object.entries(SETS[name]).every(([k, v]) => (settings as Record<string, unknown>)[k] === v)) ?? "mixed";

export const useSettings = () =>
  useQuery(options.settings());

/** The units as they stand; whoever uses this is drawn anew at once when they change. */
export function useUnits(): Units {
  const { data } = useSettings();
  return useMemo(() => make(data), [data]);
}

const SAVING = ["saving-settings"];

/** Change a setting: shown at once, kept on the server. */
export function useSaveSettings() {
  const client = useQueryClient();
  return useMutation({
    mutationKey: SAVING,
    // One after the other, and only the last answer counts: an earlier one would turn the units back for a moment.
    scope: { id: "settings" },
    mutationFn: (settings: Settings) => commands.saveSettings(settings),
    onMutate: (settings) => {
      const old = client.getQueryData(options.settings().queryKey);
      if (old) settle(client, options.settings(), { ...old, settings });
    },
    onSuccess: (out) => {
      if (client.isMutating({ mutationKey: SAVING }) > 1) return;
      settle(client, options.settings(), out);
      // Sentences come from the server in the reader's units and English: all that is on screen is asked for anew.
      void client.invalidateQueries({ predicate: (q) => familyOf(q.queryKey) !== "settings" });
    },
  });
}
