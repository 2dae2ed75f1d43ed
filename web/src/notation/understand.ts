import type { Schemas } from "../api/client";
import { marked } from "../api/reader";
import {
  amount,
  number,
  fixed,
  own,
  percent,
  exact,
  typed as asTyped,
  shownIn,
  span,
  type System,
  typedUnit,
} from "./shown";
import { WORDS } from "./words.generated";

export type Reads = Schemas["ReadsOut"];

/** What a text means for a store: what would be kept, and how that is said. */
export interface Understood {
  method: string;
  value: number | null;
  state: string | null;
  words: string;
  /** Whether nothing had to be taken for granted: a number alone is not told from one that is only begun. */
  complete: boolean;
}

/** Why a text is not understood; ``ways``: what it may mean, where that is two things. */
export interface Unclear {
  problem: string;
  ways: string[];
}

export const isUnclear = (heard: Understood | Unclear): heard is Unclear => "problem" in heard;

const F = WORDS.figures;
const NUMBER = String.raw`\d+(?:[.,]\d+)?|[.,]\d+`;
const FRACTION = new RegExp(`^(${NUMBER})\\s*/\\s*(${NUMBER})$`);
const PER_CENT = new RegExp(`^(${NUMBER})\\s*(%|percent|per cent|pc)$`);
const TWO_WAYS = /(?<![\d.,])[1-9]\d{0,2},\d{3}(?![\d.,])/;
const VALUE = new RegExp(`^(${NUMBER})\\s*(.*)$`);
const ABOUT = /^(~|≈|about|approx\.?|ca\.?|circa)\s*/;
const PARTED = /(?<![\d.,])(\d{1,3})((?:[\s'’]\d{3})+)(?!\d)/g;
const OF_WHAT = /\s+(?:of\s+)?(?:a\s+|the\s+)?(?:tank|tanks|bottle|full)$/;
const GRAVITY = /^(?:sg\s*)?(1[.,]?[0-3]\d\d?)(?:\s*sg)?$/;
const FULL: readonly string[] = WORDS.full;
const DRY: readonly string[] = WORDS.dry;
const SHARES: Record<string, number> = WORDS.shares;
const STATES: Record<string, string> = WORDS.states;

class Doubt extends Error {
  constructor(
    problem: string,
    readonly ways: string[] = [],
  ) {
    super(problem);
  }
}

const numberOf = (text: string): number => Number(text.replace(",", "."));
const quoted = (text: string): string => `"${text.length <= 60 ? text : `${text.slice(0, 57)}...`}"`;

const plainOf = (text: string): string => {
  let plain = text.trim().toLowerCase();
  for (const [sign, fraction] of Object.entries(WORDS.signs)) plain = plain.replaceAll(sign, fraction);
  plain = plain.split(/\s+/).filter(Boolean).join(" ").replace(ABOUT, "");
  return plain.replace(PARTED, (_, first: string, rest: string) => first + rest.replace(/\D/g, ""));
};

/** One text for one store. The same, step for step, as the core's ``reading.understand``. */
class Hearing {
  constructor(
    private readonly store: Reads,
    private readonly text: string,
    private readonly system: System,
  ) {}

  understand(): Understood {
    const { store } = this;
    const plain = plainOf(this.text);
    if (!plain) throw new Doubt("nothing was typed");
    const gravity = store.acid ? GRAVITY.exec(plain) : null;
    if (gravity) return this.gravity(gravity[1] ?? "");
    const doubtful = TWO_WAYS.exec(plain);
    if (doubtful) {
      const typed = doubtful[0];
      const [large, small] = [typed.replace(",", ""), asTyped(numberOf(typed))];
      throw new Doubt(`${quoted(typed)} may be ${large} or ${small}; write it one of these ways`, [
        plain.replace(typed, large),
        plain.replace(typed, small),
      ]);
    }
    return this.end(plain) ?? this.share(plain) ?? this.amount(plain);
  }

  private says(method: string, value: number | null = null, state: string | null = null, complete = true): Understood {
    return { method, value, state, words: this.describe(method, value ?? 0, state), complete };
  }

  private refuse(): Doubt {
    return new Doubt(
      `${quoted(this.text.trim())} is not understood for ${this.store.name}; write ${this.store.examples}`,
    );
  }

  private gravity(typed: string): Understood {
    const digits = numberOf(typed);
    const gravity = digits < 100 ? digits : digits / 1000;
    if (gravity < F.least_gravity || gravity > F.most_gravity)
      throw new Doubt(
        `${exact(gravity)} cannot be the gravity of a cell; a full one shows about 1.265, an empty one 1.120`,
      );
    const along = (gravity - F.flat_gravity) / (F.full_gravity - F.flat_gravity);
    const share = Math.round(Math.min(1, Math.max(0, along)) * 1000) / 1000;
    const heard = this.says("fraction", share);
    return { ...heard, words: `gravity ${marked(gravity.toFixed(3))} at 25 °C: ${heard.words}` };
  }

  private end(plain: string): Understood | null {
    if (FULL.includes(plain)) return this.says("full");
    return DRY.includes(plain) ? this.says("dry") : null;
  }

  private share(typed: string): Understood | null {
    const plain = typed.replace(OF_WHAT, "");
    let share = own(SHARES, plain);
    const fraction = FRACTION.exec(plain);
    const perCent = PER_CENT.exec(plain);
    if (fraction) {
      const [above, below] = [numberOf(fraction[1] ?? ""), numberOf(fraction[2] ?? "")];
      if (below === 0 || above > below) throw new Doubt(`${quoted(this.text.trim())} is not a share of a whole`);
      share = above / below;
    } else if (perCent) {
      share = numberOf(perCent[1] ?? "") / 100;
      if (share > 1) throw new Doubt(`${quoted(this.text.trim())} is over 100 %`);
    }
    if (share === undefined) return null;
    if (this.store.amounts === "uses") return this.says("uses", Number(fixed(share * this.store.capacity, 0)));
    return this.step(share) ?? this.says("fraction", share);
  }

  private step(share: number, complete = true): Understood | null {
    const { gauge, marks } = this.store;
    if (gauge !== "steps") return null;
    const mark = marks.reduce((best, each) => (Math.abs(each - share) < Math.abs(best - share) ? each : best));
    return Math.abs(mark - share) <= F.mark_taken_within ? this.says("step", mark, null, complete) : null;
  }

  private amount(plain: string): Understood {
    const match = VALUE.exec(plain);
    if (!match) throw this.refuse();
    const [value, rest] = [numberOf(match[1] ?? ""), (match[2] ?? "").trim()];
    if (!rest) return { ...this.bare(value), complete: false };
    const { store } = this;
    const [unit = "", ...more] = rest.split(" ");
    const state = more.join(" ").trim();
    const typed = typedUnit(unit, this.system);
    if (typed?.base === "V") return this.volts(value * typed.factor, state);
    if (typed === null || state) {
      const itsOwn = store.unit.toLowerCase();
      if (rest === itsOwn || rest === itsOwn.replace(/s+$/, "")) return this.contents(value);
      throw this.refuse();
    }
    if (typed.base === store.unit) return this.contents(value * typed.factor);
    if (store.kg_per_l !== null && typed.base === "L") {
      const mass = value * typed.factor * store.kg_per_l;
      if (mass > F.overfull * store.capacity) throw this.over(mass);
      return this.says("mass", mass);
    }
    if (store.volts !== null && typed.base === "Wh") return this.contents((value * typed.factor) / store.volts);
    throw this.refuse();
  }

  private bare(value: number): Understood {
    const { store } = this;
    if (store.volts !== null) return this.bareOfBank(value, store.volts);
    if (store.amounts === "uses") return this.contents(value);
    const step = value <= 1 ? this.step(value, false) : null;
    if (step) return step;
    const how = shownIn(store.unit, this.system);
    const base = (value - how.offset) / how.factor;
    if (store.gauge === "sensor" && value <= 100) {
      const share = value / 100;
      const fitsIn = base <= F.overfull * store.capacity;
      if (fitsIn && Math.abs(base - share * store.capacity) > F.read_alike * store.capacity)
        throw this.either(`${asTyped(value)}%`, `${asTyped(value)} ${how.unit}`);
      return this.says("fraction", share);
    }
    return this.contents(base);
  }

  private bareOfBank(value: number, volts: number): Understood {
    if (F.likely_volts_low * volts <= value && value <= F.likely_volts_high * volts) {
      if (Number.isInteger(value) || this.store.gauge === "shunt")
        throw this.either(`${asTyped(value)} V`, `${asTyped(value)}%`);
      return this.volts(value, "");
    }
    if (value <= 100) return this.says("fraction", value / 100);
    throw this.refuse();
  }

  private either(...ways: [string, string]): Doubt {
    return new Doubt(`${quoted(this.text.trim())} may mean ${ways.join(" or ")}; say which`, ways);
  }

  private volts(value: number, state: string): Understood {
    const nominal = this.store.volts;
    if (nominal === null) throw this.refuse();
    const known = own(STATES, state);
    if (state && known === undefined)
      throw new Doubt(
        `${quoted(state)} is not a state of a battery; write ${[...new Set(Object.values(STATES))].join(", ").replace(/, (\w+)$/, " or $1")} after the volts`,
      );
    if (value < F.least_volts * nominal || value > F.most_volts * nominal)
      throw new Doubt(`${exact(value)} V cannot be right for a ${exact(nominal)} V bank`);
    return this.says("volts", value, known ?? null);
  }

  private contents(base: number): Understood {
    const { amounts, capacity, tare_kg: tare, lightest_kg: lightest, heaviest_kg: heaviest } = this.store;
    const most = F.overfull * capacity;
    if (amounts === "fraction") {
      if (base > most) throw this.over(base);
      return this.says("fraction", Math.min(1, base / capacity));
    }
    if (amounts === "mass" && tare !== null) {
      if (base >= lightest) {
        if (base - heaviest > most + F.overweight_kg)
          throw new Doubt(`${this.shown(base, "kg")} is more than bottle and contents can weigh`);
        return this.says("gross", base);
      }
      if (base > capacity)
        throw new Doubt(`${this.shown(base, "kg")} is less than the empty bottle, ${this.shown(lightest, "kg")}`);
    }
    if (amounts !== "uses" && base > most) throw this.over(base);
    return this.says(amounts, base);
  }

  private over(base: number): Doubt {
    const { capacity, name, unit } = this.store;
    return new Doubt(`${this.shown(base, unit)} is more than the ${this.shown(capacity, unit)} that ${name} holds`);
  }

  private shown(base: number, unit: string): string {
    return amount(base, unit, this.system);
  }

  private describe(method: string, value: number, state: string | null): string {
    const { capacity, drains, tare_kg: tare, lightest_kg: lightest, heaviest_kg: heaviest, unit } = this.store;
    switch (method) {
      case "step":
        return this.describeMark(value);
      case "dry":
        return drains ? "at its end: nothing left" : "empty";
      case "full":
        return `full: ${this.shown(capacity, unit)}`;
      case "volts":
        return `${exact(value)} V${state === null ? "" : { rest: " at rest", load: " under load", charge: " on charge" }[state]}`;
      case "gross": {
        const kg = shownIn("kg", this.system);
        if (lightest !== heaviest) return `${marked(fixed(value * kg.factor, 1))} ${kg.unit} with the bottle in use`;
        return `${marked(fixed(value * kg.factor, 1))} ${kg.unit} less the bottle: ${this.shown(value - (tare ?? 0), unit)} of fuel`;
      }
      case "uses":
        return `${number(value, 0)} of ${number(capacity, 0)} uses`;
      case "fraction":
        return `${this.shown(value * capacity, unit)}, ${percent(value)}`;
      default:
        return `${this.shown(value, unit)}, ${percent(value / capacity)}`;
    }
  }

  private describeMark(mark: number): string {
    const { marks, mark_words: words, capacity, unit } = this.store;
    const index = marks.indexOf(mark);
    const edges = [0, ...marks.slice(1).map((each) => (each < 1 ? each : F.top_mark_shows_from)), 1];
    const [low, high] = [edges[index] ?? 0, edges[index + 1] ?? 1];
    return `mark ${words[index]}: ${span(low * capacity, high * capacity, unit, this.system)}`;
  }
}

/** What was typed for a store, without asking the server. */
export const understand = (store: Reads, text: string, system: System): Understood | Unclear => {
  try {
    return new Hearing(store, text, system).understand();
  } catch (error) {
    if (error instanceof Doubt) return { problem: error.message, ways: error.ways };
    throw error;
  }
};
