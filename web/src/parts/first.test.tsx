import { render, screen } from "@testing-library/react";
import { expect, it } from "vitest";

import { useFirstStands } from "./first";

const drawn: string[] = [];

const View = () => {
  const words = useFirstStands() ? "all of it" : "the first words";
  drawn.push(words);
  return <div>{words}</div>;
};

it("lets the first words stand before what lies below them, once", async () => {
  const { unmount } = render(<View />);
  expect(await screen.findByText("all of it")).toBeVisible();
  expect([...new Set(drawn)]).toEqual(["the first words", "all of it"]);
  unmount();
  drawn.length = 0;
  render(<View />);
  expect(drawn).toEqual(["all of it"]);
});
