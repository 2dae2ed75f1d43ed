import { zodResolver } from "@hookform/resolvers/zod";
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { FormProvider, useForm } from "react-hook-form";
import { describe, expect, it, vi } from "vitest";

import { Refusal } from "../api/client";
import { keepReader } from "../api/reader";
import { show } from "../testing/testing";
import { DayFactsForm } from "./DayFactsForm";
import { corrected, eventOf, oneTouch, valuesOf } from "./events";
import { ChoiceField, NumberField, TextField } from "./fields";
import { DraftForm, useDraft } from "./form";
import { fieldOf, pathOf } from "./refusal";
import { needed, optional, text, z } from "./schema";
import type { Typed } from "./typed";

const GALLON = {
  unit: "gal",
  show: (litres: number) => litres / 3.785411784,
  keep: (gal: number) => gal * 3.785411784,
};

interface Tank {
  name: string;
  capacity: Typed;
  limit: Typed;
  kind: string;
}

const SCHEMA = z.object({
  name: text(10),
  capacity: needed({ over: 0 }),
  limit: optional({ least: 0, most: 1 }),
  kind: z.string(),
}) as unknown as z.ZodMiniType<Tank, Tank>;

const Form = ({ send }: { send: (tank: Tank) => void }) => {
  const form = useForm<Tank>({
    resolver: zodResolver(SCHEMA),
    defaultValues: { name: "Tank", capacity: 151.42, limit: null, kind: "a" },
    mode: "onBlur",
  });
  return (
    <FormProvider {...form}>
      <form noValidate onSubmit={(event) => void form.handleSubmit(send)(event)}>
        <TextField name="name" />
        <NumberField name="capacity" shown={GALLON} />
        <NumberField name="limit" />
        <ChoiceField
          name="kind"
          options={[
            ["a", "A"],
            ["b", "B"],
          ]}
        />
        <button type="submit">Send</button>
      </form>
    </FormProvider>
  );
};

const drawn = () => {
  const send = vi.fn();
  show(<Form send={send} />);
  const type = (label: string, value: string) => {
    const field = screen.getByLabelText(label);
    fireEvent.change(field, { target: { value } });
    fireEvent.blur(field);
    return field;
  };
  const submit = () => fireEvent.click(screen.getByRole("button", { name: "Send" }));
  return { send, type, submit };
};

describe("a form", () => {
  it("names its fields by the labels that refusals use, and shows amounts in the user's unit", () => {
    drawn();
    expect(screen.getByLabelText("Name")).toHaveValue("Tank");
    expect(screen.getByLabelText("Capacity, gal")).toHaveValue("40.001");
    expect(screen.getByLabelText("Lode line")).toHaveValue("");
  });

  it("sends what was not touched exactly as it was, however it is shown", async () => {
    const { send, submit } = drawn();
    submit();
    await waitFor(() => expect(send).toHaveBeenCalled());
    expect(send.mock.calls[0]?.[0]).toEqual({ name: "Tank", capacity: 151.42, limit: null, kind: "a" });
  });

  it("says at its field that one was emptied, and never puts a number there itself", async () => {
    const { send, type, submit } = drawn();
    const field = type("Capacity, gal", "");
    await waitFor(() => expect(field).toHaveAccessibleDescription("Write a number here; it was left empty."));
    submit();
    expect(field).toHaveValue("");
    expect(field).toBeInvalid();
    expect(send).not.toHaveBeenCalled();
  });

  it.each([
    ["Capacity, gal", "plenty", '"plenty" is not a number; write one such as 12.5, or 12.5 gal.'],
    ["Capacity, gal", "1,250", '"1,250" may be 1250 or 1.25; write it one of these ways.'],
    ["Capacity, gal", "0", "Write a number greater than 0."],
    ["Lode line", "7", "Write a number of at most 1."],
    ["Name", "  ", "Write something here."],
  ])("keeps what was typed in %s (%s), and says what would be right", async (label, typed, says) => {
    const { send, type, submit } = drawn();
    const field = type(label, typed);
    await waitFor(() => expect(field).toHaveAccessibleDescription(says));
    expect(field).toHaveValue(typed);
    submit();
    await waitFor(() => expect(send).not.toHaveBeenCalled());
  });
});

it("a number stands as the person writes it, unless that could be read as thousands", () => {
  keepReader({ clock: "24", dates: "day", numbers: "comma" });
  const { type } = drawn();
  expect(screen.getByLabelText("Capacity, gal")).toHaveValue("40.001"); // 40,001 may be forty thousand
  expect(type("Capacity, gal", "12,5")).toHaveValue("12,5");
  expect(type("Lode line", "0.25")).toHaveValue("0,25");
});

describe("a refusal", () => {
  const fields = ["name", "temp_min", "stores.0.capacity", "stores.1.capacity", "hours.alternator"];
  it.each([
    ["rig.stores[1].capacity", "Capacity", "stores.1.capacity"],
    ["name", "Name", "name"],
    ["temp_min_c", "Coldest", "temp_min"],
    ["hours.alternator", "Hours", "hours.alternator"],
    ["stores", "Stores", null],
    ["", "", null],
  ])("of %s stands at %s's field", (place, label, field) => {
    expect(fieldOf(new Refusal(422, place, "", label), fields)).toBe(field);
  });

  it("of a batch's entry is one of its form", () => {
    expect(pathOf("entries[0].event.amount")).toBe("amount");
    expect(pathOf("entries[0].text")).toBe("text");
  });
});

describe("bodies of events", () => {
  const act = (asks: string, needs_amount = false) => ({
    label: "",
    type: asks === "amount" ? (needs_amount ? "move" : "fill") : "x",
    store: "fresh",
    asks,
    unit: "L",
    question: null,
    needs_amount,
  });

  it("are logged by one touch where nothing must be asked", () => {
    expect(oneTouch(act("nothing"))).toEqual({ type: "x", store: "fresh", full: false });
    expect(oneTouch(act("amount"))).toMatchObject({ full: true });
    expect(oneTouch(act("count"))).toMatchObject({ count: 1 });
    expect(oneTouch(act("hours"))).toBeNull();
    expect(oneTouch(act("amount", true))).toBeNull();
    expect(eventOf(act("amount"), 40.5)).toEqual({ type: "fill", store: "fresh", full: false, amount: 40.5 });
  });

  it("can be corrected in the numbers that they have; a fill may become one to the brim and back", () => {
    const fill = { type: "fill", store: "fresh", full: true, amount: null };
    const drive = { type: "drive", store: null, full: false, hours: 1.5, distance: 84 };
    expect(valuesOf(fill)).toEqual(["amount"]);
    expect(valuesOf(drive)).toEqual(["hours", "distance"]);
    expect(corrected(fill, { amount: 40 })).toMatchObject({ amount: 40, full: false });
    expect(corrected({ ...fill, full: false, amount: 40 }, { amount: null })).toMatchObject({
      amount: null,
      full: true,
    });
    const both = { ...fill, amount: 40 };
    expect(valuesOf(both)).toEqual(["amount"]);
    expect(corrected(both, { amount: 42 })).toMatchObject({ amount: 42, full: true });
    expect(corrected(drive, { hours: 2, distance: 84 })).toMatchObject({ hours: 2, full: false });
  });
});

describe("a day's facts", () => {
  const facts = { sky: "wet", status: null, temp_min: 3, temp_max: null, crew_aboard: null, note: null };
  const open = (keep = vi.fn().mockResolvedValue(undefined)) => {
    show(
      <DayFactsForm
        facts={facts}
        fields={["sky", "status", "temp_min", "temp_max", "crew_aboard", "note"]}
        units={{ temp: "°F", water: "gal" }}
        keep={keep}
      />,
    );
    return keep;
  };

  it("keep one at a time, in the order in which they are left", async () => {
    const keep = open();
    fireEvent.click(screen.getByRole("button", { name: "plugged in" }));
    const warmest = screen.getByLabelText("Warmest, °F");
    fireEvent.change(warmest, { target: { value: "48,5" } });
    fireEvent.keyDown(warmest, { key: "Enter" });
    fireEvent.blur(warmest);
    const note = screen.getByLabelText("Note");
    fireEvent.change(note, { target: { value: "Windy." } });
    fireEvent.blur(note);
    await waitFor(() => expect(keep).toHaveBeenCalledTimes(3));
    expect(keep.mock.calls.map((call) => call[0] as object)).toEqual([
      { status: "hookup" },
      { temp_max: 48.5 },
      { note: "Windy." },
    ]);
  });

  it("are taken out where a field is emptied, for a day may lack any of them", async () => {
    const keep = open();
    const coldest = screen.getByLabelText("Coldest, °F");
    fireEvent.change(coldest, { target: { value: "" } });
    fireEvent.blur(coldest);
    await waitFor(() => expect(keep).toHaveBeenCalledWith({ temp_min: null }));
  });

  it("are not sent where nothing was changed", async () => {
    const keep = open();
    fireEvent.blur(screen.getByLabelText("Coldest, °F"));
    await Promise.resolve();
    expect(keep).not.toHaveBeenCalled();
  });
});

const HIDDEN = z.object({ name: text(10), apart: text(10) });

const Unseen = () => {
  const draft = useDraft({ schema: HIDDEN, values: { name: "Tank", apart: "" }, send: () => Promise.resolve() });
  return (
    <DraftForm of={draft}>
      <TextField name="name" />
      <button type="submit">Send</button>
    </DraftForm>
  );
};

it("says what is wrong where no field of it is on the screen", async () => {
  show(<Unseen />);
  fireEvent.click(screen.getByRole("button", { name: "Send" }));
  expect(await screen.findByRole("alert")).toHaveTextContent("Write something here.");
});
