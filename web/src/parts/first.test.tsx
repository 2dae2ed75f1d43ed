import { render, screen } from "@testing-library/react";
import { expect, it } from "vitest";

import { useFirstStands } from "./first";

const View = () => <div>{useFirstStands() ? "all of it" : "the first words"}</div>;

it("lets the first words stand before what lies below them, once", async () => {
  const { unmount } = render(<View />);
  expect(screen.getByText("the first words")).toBeVisible();
  expect(await screen.findByText("all of it")).toBeVisible();
  unmount();
  render(<View />);
  expect(screen.getByText("all of it")).toBeVisible();
});
