import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import { answering, show } from "../app/testing";
import type { StoreDoc } from "./fields";
import { PartList } from "./PartList";
import { Rating } from "./Rating";

const store = { id: "pack", kind: "battery", name: "Pack", nominal_v: 12, chemistry: "lfp" } as StoreDoc;

const type = (label: string, value: string) => {
  const field = screen.getByLabelText(label);
  fireEvent.change(field, { target: { value } });
  fireEvent.blur(field);
};

describe("a bank that is rated otherwise", () => {
  it("is taken as the server reckons it, at its cells' volts", async () => {
    const asked = answering({ "POST /rating": { capacity_ah: 6.17, words: "20,000 mAh at 3.7 V are 74 Wh." } });
    const change = vi.fn();
    show(<Rating store={store} change={change} />);
    fireEvent.click(screen.getByRole("button", { name: "It is rated in Wh or mAh" }));
    fireEvent.change(screen.getByLabelText("In"), { target: { value: "mAh" } });
    type("Rated", "20000");
    fireEvent.click(screen.getByRole("button", { name: "Take it as the capacity" }));
    await waitFor(() => expect(change).toHaveBeenCalledWith({ ...store, capacity: 6.17 }));
    expect(asked[0]?.body).toEqual({ amount: 20000, unit: "mAh", nominal_v: 12, cell_v: 3.7 });
    expect(screen.getByText(/are 74 Wh/)).toBeVisible();
  });

  it("has no cell volts in Wh, and changes nothing when it is refused", async () => {
    const asked = answering({ "POST /rating": { status: 422, place: "amount", problem: "must be over 0" } });
    const change = vi.fn();
    show(<Rating store={store} change={change} />);
    fireEvent.click(screen.getByRole("button", { name: "It is rated in Wh or mAh" }));
    expect(screen.queryByLabelText("At its cells' volts, V")).toBeNull();
    expect(screen.getByRole("button", { name: "Take it as the capacity" })).toBeDisabled();
    type("Rated", "0");
    fireEvent.click(screen.getByRole("button", { name: "Take it as the capacity" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("must be over 0");
    expect(asked[0]?.body).toMatchObject({ unit: "Wh", cell_v: null });
    expect(change).not.toHaveBeenCalled();
  });
});

describe("a list of parts", () => {
  const parts = [
    { id: "roof", watts: 400, side: "up" },
    { id: "hood", watts: 100, side: "down" },
  ];
  const draw = (change: (next: typeof parts) => void) =>
    show(
      <PartList
        title="Array"
        parts={parts}
        assumed={(id, key) => id === "hood" && key === "watts"}
        columns={[
          { key: "watts", label: "Nameplate", kind: "number", unit: "W" },
          {
            key: "side",
            label: "Side",
            kind: "choice",
            options: [
              ["up", "up"],
              ["down", "down"],
            ],
          },
        ]}
        change={change}
        add={() => ({ id: "new", watts: 50, side: "up" })}
      />,
    );

  it("changes one part's field and leaves the others", () => {
    const change = vi.fn();
    draw(change);
    type("Nameplate, W", "450");
    expect(change).toHaveBeenCalledWith([{ id: "roof", watts: 450, side: "up" }, parts[1]]);
  });

  it("says so when a number is not one, and keeps what was typed there", () => {
    const change = vi.fn();
    draw(change);
    type("Nameplate, W", "plenty");
    expect(change).not.toHaveBeenCalled();
    expect(screen.getByLabelText("Nameplate, W")).toHaveValue("plenty");
    expect(screen.getByRole("alert")).toHaveTextContent('"plenty" is not a number; write one such as 12.5.');
    type("Nameplate, W", "420");
    expect(screen.queryByRole("alert")).toBeNull();
    expect(change).toHaveBeenCalledOnce();
  });

  it("marks what is assumed, adds and removes", () => {
    const change = vi.fn();
    draw(change);
    expect(screen.getByLabelText("Nameplate (assumed), W")).toHaveValue("100");
    fireEvent.click(screen.getByRole("button", { name: "Remove hood" }));
    expect(change).toHaveBeenLastCalledWith([parts[0]]);
    fireEvent.click(screen.getByRole("button", { name: "Add" }));
    expect(change).toHaveBeenLastCalledWith([...parts, { id: "new", watts: 50, side: "up" }]);
  });
});
