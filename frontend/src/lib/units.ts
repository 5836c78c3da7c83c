import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";

import type { DisplayUnit, Settings, SettingsOut } from "../api/client";
import { commands } from "../api/commands";
import { familyOf, options } from "../api/options";
import { MICRON_PA } from "./format";

/** Figures in the units a person reads. The factors come from the server; nothing else is computed here. */

export type Dim = "pressure" | "gauge" | "temperature" | "flow" | "length" | "mass" | "volume";

const FALLBACK: Record<Dim, DisplayUnit> = {
  pressure: { key: "micron", label: "µ", factor: 1 / MICRON_PA, offset: 0, digits: 3 },
  gauge: { key: "psig", label: "psig", factor: 1 / 6894.757293168, offset: 0, digits: 3 },
  temperature: { key: "c", label: "°C", factor: 1, offset: 0, digits: 3 },
  flow: { key: "cfm", label: "CFM", factor: 2118.88, offset: 0, digits: 3 },
  length: { key: "m", label: "m", factor: 1, offset: 0, digits: 3 },
  mass: { key: "kg", label: "kg", factor: 1, offset: 0, digits: 3 },
  volume: { key: "l", label: "l", factor: 1, offset: 0, digits: 3 },
};

const whole = new Intl.NumberFormat("en-US", { maximumFractionDigits: 0 });

/** A number with about `digits` significant figures, thousands set apart, no trailing zeros past them. */
function figure(value: number, digits: number): string {
  // Places follow from what is shown: 9.9996 is 10.0.
  const size = Math.abs(Number(value.toPrecision(digits)));
  if (size === 0) return "0";
  if (size >= 10 ** digits) return whole.format(size >= 20_000 ? Math.round(value / 100) * 100 : value);
  const places = Math.min(5, Math.max(0, digits - 1 - Math.floor(Math.log10(size))));
  return size >= 1000 ? value.toLocaleString("en-US", { minimumFractionDigits: places, maximumFractionDigits: places }) : value.toFixed(places);
}

export interface Units {
  settings: Settings;
  of: (dim: Dim) => DisplayUnit;
  label: (dim: Dim) => string;
  /** From the document's unit to what is shown, and back. */
  shown: (dim: Dim, value: number) => number;
  stored: (dim: Dim, shown: number) => number;
  /** A figure alone, and a figure with its unit. */
  figure: (dim: Dim, value: number) => string;
  say: (dim: Dim, value: number) => string;
  /** A rate of pressure, from µ/s, with its sign or without. */
  rate: (micronPerSecond: number, signed?: boolean) => string;
  /** A sentence of the server's, its figures turned into these units. */
  words: (text: string) => string;
}

function make(out: SettingsOut | undefined): Units {
  const settings = out?.settings ?? ({} as Settings);
  const of = (dim: Dim): DisplayUnit =>
    out?.units[dim]?.find((u) => u.key === (settings as Record<string, unknown>)[dim]) ?? FALLBACK[dim];
  const shown = (dim: Dim, value: number) => value * of(dim).factor + (of(dim).offset ?? 0);
  const stored = (dim: Dim, value: number) => (value - (of(dim).offset ?? 0)) / of(dim).factor;
  const fig = (dim: Dim, value: number): string => {
    const v = shown(dim, value);
    const unit = of(dim);
    if (dim === "pressure" && unit.key === "micron") return v < 10 ? v.toFixed(1) : figure(v, v < 20_000 ? 5 : 3).replace(/\.\d+$/, "");
    if (dim === "temperature") return v.toFixed(1).replace(/\.0$/, "");
    return figure(v, unit.digits ?? 3);
  };
  const say = (dim: Dim, value: number): string => {
    if (dim === "mass" && of("mass").key === "lb-oz") {
      const ounces = shown("mass", value) * 16;
      const pounds = Math.floor(ounces / 16 + 1e-9);
      return `${pounds} lb ${(ounces - 16 * pounds).toFixed(1)} oz`;
    }
    return `${fig(dim, value)} ${of(dim).label}`;
  };
  const rate = (micron: number, signed = true): string => {
    const unit = of("pressure");
    const v = Math.abs(micron * MICRON_PA * unit.factor);
    const text = unit.key === "micron" ? v.toFixed(v >= 10 ? 0 : 2) : v === 0 ? "0" : v.toPrecision(2);
    return `${signed ? (micron < 0 ? "−" : "+") : micron < 0 ? "−" : ""}${text} ${unit.label}/s`;
  };
  const number = (t: string) => Number(t.replace(/,/g, ""));
  const words = (text: string): string =>
    text
      .replace(/(\d[\d,]*(?:\.\d+)?) µ\/s/g, (whole_, n: string) => (of("pressure").key === "micron" ? whole_ : rate(number(n), false)))
      .replace(/(\d[\d,]*(?:\.\d+)?) µ(?!\/)/g, (whole_, n: string) => (of("pressure").key === "micron" ? whole_ : say("pressure", number(n) * MICRON_PA)))
      .replace(/(\d+(?:\.\d+)?) m\b(?!\w)/g, (whole_, n: string) => (of("length").key === "m" ? whole_ : say("length", number(n))))
      .replace(/(\d+(?:\.\d+)?) kg\b/g, (whole_, n: string) => (of("mass").key === "kg" ? whole_ : say("mass", number(n))))
      .replace(/(−?-?\d+(?:\.\d+)?) °C/g, (whole_, n: string) =>
        of("temperature").key === "c" ? whole_ : say("temperature", Number(n.replace("−", "-"))),
      )
      .replace(/(\d+(?:\.\d+)?) CFM/g, (whole_, n: string) => (of("flow").key === "cfm" ? whole_ : say("flow", number(n) / FALLBACK.flow.factor)));
  return { settings, of, label: (d) => of(d).label, shown, stored, figure: fig, say, rate, words };
}

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
    onMutate: (settings) => client.setQueryData(options.settings().queryKey, (old) => old && { ...old, settings }),
    onSuccess: (out) => {
      if (client.isMutating({ mutationKey: SAVING }) > 1) return;
      client.setQueryData(options.settings().queryKey, out);
      // Sentences come from the server in the reader's units and English: all that is on screen is asked for anew.
      void client.invalidateQueries({ predicate: (q) => familyOf(q.queryKey) !== "settings" });
    },
  });
}
