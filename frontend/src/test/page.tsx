import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import type { ReactNode } from "react";

import type { SettingsOut } from "../api/client";
import { options } from "../api/options";

export const PA = 101325 / 760000;

/** Settings as the server gives them: a unit chosen for each dimension. */
export const settings = (chosen: Record<string, string>): SettingsOut =>
  ({
    settings: { pressure: "micron", temperature: "c", flow: "cfm", length: "m", mass: "kg", volume: "l", ...chosen },
    units: {
      pressure: [
        { key: "micron", label: "µ", factor: 1 / PA, offset: 0, digits: 3 },
        { key: "mbar", label: "mbar", factor: 0.01, offset: 0, digits: 3 },
        { key: "pa", label: "Pa", factor: 1, offset: 0, digits: 3 },
      ],
      temperature: [
        { key: "c", label: "°C", factor: 1, offset: 0, digits: 3 },
        { key: "f", label: "°F", factor: 1.8, offset: 32, digits: 3 },
      ],
      length: [
        { key: "m", label: "m", factor: 1, offset: 0, digits: 3 },
        { key: "ft", label: "ft", factor: 1 / 0.3048, offset: 0, digits: 3 },
      ],
      mass: [
        { key: "kg", label: "kg", factor: 1, offset: 0, digits: 3 },
        { key: "lb-oz", label: "lb", factor: 1 / 0.45359237, offset: 0, digits: 3 },
      ],
      step: [
        { key: "c", label: "°C", factor: 1, offset: 0, digits: 3 },
        { key: "f", label: "°F", factor: 1.8, offset: 0, digits: 3 },
      ],
      grams: [
        { key: "kg", label: "g", factor: 1, offset: 0, digits: 2 },
        { key: "lb-oz", label: "oz", factor: 1 / 28.349523, offset: 0, digits: 2 },
      ],
      adder: [
        { key: "kg", label: "g/m", factor: 1, offset: 0, digits: 3 },
        { key: "lb-oz", label: "oz/ft", factor: 0.3048 / 28.349523, offset: 0, digits: 3 },
      ],
      capacity: [{ key: "tons", label: "tons", factor: 1 / 3.5168528, offset: 0, digits: 3 }],
      barometer: [{ key: "inhg", label: "inHg", factor: 100 / 3386.389, offset: 0, digits: 4 }],
    },
  }) as unknown as SettingsOut;

/** A page around a part of it, with the answers it asks for. */
export function page(chosen: Record<string, string> = {}) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: Infinity } } });
  client.setQueryData(options.settings().queryKey, settings(chosen));
  const wrapper = ({ children }: { children: ReactNode }) => <QueryClientProvider client={client}>{children}</QueryClientProvider>;
  return { client, wrapper };
}
