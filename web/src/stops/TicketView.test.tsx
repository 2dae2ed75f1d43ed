import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";

import { aTicket } from "../testing/stops";
import { answering, ME, READER, show, writesOf } from "../testing/testing";
import { TicketView } from "./TicketView";

vi.mock("react-router", async (real) => ({ ...(await real<object>()), useParams: () => ({ ticket: "1" }) }));

const opened = (ticket = aTicket(), me = ME) => {
  const asked = answering({ "GET /tickets/1": ticket });
  show(<TicketView />, "/1", me);
  return asked;
};
const row = async (id: string) => {
  await screen.findByRole("list", { name: "What to do, in order" });
  const found = document.querySelector<HTMLElement>(`[data-task=${id}]`);
  if (!found) throw new Error(`no task ${id}`);
  return within(found);
};

beforeEach(() => localStorage.clear());

describe("a ticket", () => {
  it("writes the event of a tick, as planned", async () => {
    const asked = opened();
    fireEvent.click((await row("fill")).getByRole("button", { name: "Do fill: Done" }));
    await waitFor(() => expect(writesOf(asked)).toHaveLength(1));
    expect(writesOf(asked)[0]?.add?.event).toMatchObject({ type: "fill", store: "fresh", full: true });
    expect(await screen.findByText("1 to do.")).toBeVisible();
  });

  it("writes another amount where one was typed, and says what is no number", async () => {
    const asked = opened();
    const fill = await row("fill");
    fireEvent.click(fill.getByRole("button", { name: "Another amount" }));
    fireEvent.change(fill.getByRole("textbox"), { target: { value: "some" } });
    fireEvent.click(fill.getByRole("button", { name: "Do fill: Done" }));
    expect(await fill.findByText('"some" is not a number; write one such as 12.5, or 12.5 L.')).toBeVisible();
    expect(writesOf(asked)).toHaveLength(0);
    fireEvent.change(fill.getByRole("textbox"), { target: { value: "40" } });
    fireEvent.click(fill.getByRole("button", { name: "Do fill: Done" }));
    await waitFor(() => expect(writesOf(asked)[0]?.add?.event).toMatchObject({ amount: 40, full: false }));
  });

  it("takes a tick that logs nothing back without a word to the log", async () => {
    const asked = opened();
    const valves = await row("valves");
    fireEvent.click(valves.getByRole("button", { name: "Do valves: Done" }));
    fireEvent.click(await valves.findByRole("button", { name: "Do valves: undo" }));
    await waitFor(() => expect(writesOf(asked)).toHaveLength(0));
  });

  it("takes a tick back by its receipt", async () => {
    const asked = opened();
    fireEvent.click((await row("fill")).getByRole("button", { name: "Do fill: Done" }));
    const undo = await (await row("fill")).findByRole("button", { name: "Do fill: undo" });
    vi.spyOn(performance, "now").mockReturnValue(performance.now() + 2_000); // no second half of a double touch
    fireEvent.click(undo);
    await waitFor(() => expect(writesOf(asked)).toHaveLength(2));
    const [kept] = asked
      .filter((each) => each.path.endsWith("/writes"))
      .map((each) => each.body as { writes: { id: string }[] });
    expect(writesOf(asked)[1]).toMatchObject({
      saw: 0,
      remove: { kind: "event", id: kept?.writes[0]?.id },
    });
    expect(await (await row("fill")).findByRole("button", { name: "Do fill: Done" })).toBeVisible();
  });

  it("takes a tick of another device back as this ticket shows it", async () => {
    const ticket = aTicket();
    const asked = opened({
      ...ticket,
      tasks: ticket.tasks.map((task) => (task.id === "fill" ? { ...task, done: "entry-31" } : task)),
    });
    fireEvent.click(await (await row("fill")).findByRole("button", { name: "Do fill: undo" }));
    await waitFor(() => expect(writesOf(asked)).toHaveLength(1));
    expect(writesOf(asked)[0]).toEqual({ saw: ticket.revision, remove: { kind: "event", id: "entry-31" } });
    expect(await (await row("fill")).findByRole("button", { name: "Do fill: Done" })).toBeVisible();
  });

  it("offers a reader nothing to tick", async () => {
    opened(aTicket(), READER);
    expect((await row("fill")).getByRole("button", { name: "Do fill: Done" })).toBeDisabled();
    expect(screen.queryByRole("button", { name: "The stop is over" })).toBeNull();
  });
});
