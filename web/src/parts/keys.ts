import type { KeyboardEvent as ReactKey } from "react";

type Pressed = Pick<KeyboardEvent, "key" | "target" | "isComposing" | "repeat" | "preventDefault"> & {
  nativeEvent?: KeyboardEvent;
};

/** What each key does. A key whose act answers ``false`` is left to the browser. */
export type KeyActs = Record<string, (event: Pressed) => unknown>;

// held down they go on; any other key acts once a press
const GO_ON = new Set(["ArrowLeft", "ArrowRight", "ArrowUp", "ArrowDown"]);

/**
 * The one way in which this application hears a key: what it does, it does alone. The browser's own act of that press
 * does not follow, so that moving the focus does not press what is focused; a held key acts once; a word that is being
 * composed keeps its keys.
 */
export const onKeys =
  (acts: KeyActs) =>
  (event: ReactKey | KeyboardEvent): void => {
    const pressed = event as Pressed;
    const act = Object.hasOwn(acts, pressed.key) ? acts[pressed.key] : undefined;
    if (act === undefined || (pressed.nativeEvent?.isComposing ?? pressed.isComposing)) return;
    if (pressed.repeat && !GO_ON.has(pressed.key)) return pressed.preventDefault();
    if (act(pressed) !== false) pressed.preventDefault();
  };

/** The keys of something that is drawn and pressed like a button. */
export const asButton = (press: () => void) => onKeys({ Enter: press, " ": press });
