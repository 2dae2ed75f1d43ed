import "@testing-library/jest-dom/vitest";
import "fake-indexeddb/auto";

import { cleanup, configure } from "@testing-library/react";
import { afterEach, beforeEach, vi } from "vitest";

import { keepReader } from "../api/reader";
import { outbox } from "../outbox/outbox";

// a machine under load is slow, not wrong
configure({ asyncUtilTimeout: Number(import.meta.env.VITE_PATIENCE_MS ?? 30_000) });

window.matchMedia ??= vi.fn().mockImplementation((query: string) => ({
  matches: false,
  media: query,
  addEventListener: () => undefined,
  removeEventListener: () => undefined,
}));

class FakeObserver {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
}
globalThis.ResizeObserver ??= FakeObserver as unknown as typeof ResizeObserver;

// files share one page, so that what they load is loaded once: each test leaves it as it was
beforeEach(() => keepReader({ clock: "24", dates: "day", numbers: "point" }));
afterEach(async () => {
  cleanup();
  outbox.belongsTo(null);
  await outbox.flush();
  await outbox.discard(...outbox.all().map((each) => each.id));
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
  localStorage.clear();
  sessionStorage.clear();
  document.documentElement.className = "";
});
