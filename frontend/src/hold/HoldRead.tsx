import type { ReactNode } from "react";

import type { SeriesOut, VerdictOut } from "../api/client";
import { useNarrow } from "../lib/narrow";
import { Sheet } from "../ui/Sheet";
import { Banner } from "./Banner";
import { Earlier } from "./Earlier";
import { Figures } from "./Figures";
import { HoldTrace } from "./HoldTrace";
import { Needle } from "./Needle";
import { NextOrder } from "./NextOrder";
import { Odds } from "./Odds";
import { Residuals } from "./Residuals";
import { Schools } from "./Schools";
import { Sound } from "./Sound";

interface Props {
  v: VerdictOut;
  series: SeriesOut[];
  now: number;
  running?: boolean;
  jobKey?: string;
  children?: ReactNode;
}

/** A hold that has been read: verdict, trace, odds, figures, what next, the schools. */
export function HoldRead({ v, series, now, running = false, jobKey, children }: Props) {
  const narrow = useNarrow();
  const read = v.curves.length > 0;
  const trace = series.length > 0 && (
    <Sheet className="p-2!">
      <HoldTrace v={v} series={series} now={running ? now : null} />
      {read && <Residuals v={v} />}
    </Sheet>
  );
  const needle = <Needle v={v} />;
  const sound = <Sound v={v} now={now} running={running} />;
  const odds = <Odds v={v} />;
  const next = <NextOrder v={v} jobKey={jobKey} />;
  const figures = read && <Figures v={v} />;
  const earlier = <Earlier v={v} />;
  const schools = <Schools v={v} />;
  if (narrow)
    return (
      <div className="grid grid-cols-[minmax(0,1fr)] gap-3">
        <Banner v={v} />
        {children}
        {needle}
        {sound}
        {trace}
        {next}
        {odds}
        {earlier}
        {figures}
        {schools}
      </div>
    );
  return (
    <div className="grid items-start gap-3 md:grid-cols-[minmax(0,1fr)_380px]">
      <div className="md:col-span-2">
        <Banner v={v} />
      </div>
      <div className="grid min-w-0 gap-3">
        {needle}
        {trace}
        {next}
        {schools}
      </div>
      <div className="grid min-w-0 gap-3">
        {children}
        {sound}
        {odds}
        {earlier}
        {figures}
      </div>
    </div>
  );
}
