import { render, screen } from "@testing-library/react";
import { expect, it, vi } from "vitest";

it("lets the first words stand before what lies below them, once", async () => {
  // other tests of this process may have had their first view
  vi.resetModules();
  const { useFirstStands } = await import("./first");
  const drawn: string[] = [];
  const View = () => {
    const words = useFirstStands() ? "all of it" : "the first words";
    drawn.push(words);
    return <div>{words}</div>;
  };
  const { unmount } = render(<View />);
  expect(await screen.findByText("all of it")).toBeVisible();
  expect([...new Set(drawn)]).toEqual(["the first words", "all of it"]);
  unmount();
  drawn.length = 0;
  render(<View />);
  expect(drawn).toEqual(["all of it"]);
});
