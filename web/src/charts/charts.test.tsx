import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import { show } from "../testing/testing";
import { Band } from "./Band";
import { Bar } from "./Bar";
import { Lane } from "./Lane";
import { Line, Reach } from "./Line";
import { EventMark, ReadingMark } from "./Mark";
import { daysScale, ledgerScale, levelScale, timeScale, within } from "./scales";

const FROM = Date.parse("2026-11-20T00:00:00Z");
const TO = Date.parse("2026-11-30T00:00:00Z");
const x = timeScale(FROM, TO, 840);
const y = levelScale(100, 57, 7);

const drawn = (part: React.ReactNode) => {
  const { container } = show(
    <Lane words="what it says" width={840} height={64}>
      {part}
    </Lane>,
  );
  return (name: string) => container.querySelector(`[data-part=${name}]`);
};

describe("scales", () => {
  it("draw empty at the bottom, full at the top and never outside", () => {
    expect([y(0), y(100), y(140), y(-5)]).toEqual([57, 7, 7, 57]);
  });

  it("put amounts above and below one line to one scale", () => {
    const { zero, of } = ledgerScale(1500, 500, 200);
    expect(zero).toBe(150);
    expect([of(1500), of(500)]).toEqual([150, 50]);
  });

  it("keep days beyond the end at the end", () => {
    const days = daysScale(14, 4, 256);
    expect([days(0), days(7), days(99)]).toEqual([4, 130, 256]);
  });

  it("keep one point before the span so that a line enters from its edge", () => {
    const points = ["2026-11-18", "2026-11-19", "2026-11-21", "2026-12-05"].map((date) => ({
      at: `${date}T00:00:00Z`,
    }));
    expect(within(points, FROM, TO).map((point) => point.at.slice(0, 10))).toEqual(["2026-11-19", "2026-11-21"]);
  });
});

describe("what is drawn", () => {
  it("is said in words", () => {
    drawn(null);
    expect(screen.getByRole("img")).toHaveAccessibleName("what it says");
  });

  it("has a fill as a step straight up", () => {
    const at = "2026-11-22T12:00:00Z";
    const points = [
      { at, level: 20 },
      { at, level: 100 },
    ];
    const line = drawn(<Line points={points} x={x} y={y} level={(point) => point.level} stroke="ink" part="past" />);
    expect(line("past")).toHaveAttribute("d", "M210,47L210,7");
  });

  it("spans a range from its low to its high end", () => {
    const fan = [
      { at: "2026-11-25T00:00:00Z", low: 50, high: 50 },
      { at: "2026-11-26T00:00:00Z", low: 0, high: 100 },
    ];
    const band = drawn(
      <Band points={fan} x={x} y={y} low={(p) => p.low} high={(p) => p.high} fill="rule" part="fan" />,
    );
    expect(band("fan")).toHaveAttribute("d", "M420,32L504,7L504,57L420,32Z");
  });

  it("tells a doubtful reading, and each way of an event, by their shapes", () => {
    const shape = (part: React.ReactNode, name: string) => drawn(part)(name)?.getAttribute("d");
    const reading = (doubtful: boolean) => <ReadingMark x={9} top={2} bottom={8} doubtful={doubtful} words="1/3" />;
    expect(shape(reading(true), "doubtful")).not.toBe(shape(reading(false), "reading"));
    const ways = (["in", "out", "other"] as const).map((way) => shape(<EventMark x={9} way={way} words="" />, "event"));
    expect(new Set(ways).size).toBe(3);
  });

  it("marks when a line may be reached from the early to the late end", () => {
    const reach = drawn(<Reach from={10} to={90} middle={40} y={57} stroke="ink" />)("reach");
    expect([reach?.getAttribute("x1"), reach?.getAttribute("x2")]).toEqual(["10", "90"]);
  });

  it("keeps what is only assumed apart from what was measured", () => {
    const bar = (open: boolean) => drawn(<Bar x={0} y={0} width={9} height={9} fill="edge" open={open} part="bar" />);
    expect(bar(true)("bar")?.getAttribute("class")).not.toBe(bar(false)("bar")?.getAttribute("class"));
  });
});
