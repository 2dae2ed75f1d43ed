import type { Schemas } from "../api/client";
import { marked } from "../api/reader";
import {
  amount,
  asRead,
  digitsOf,
  number,
  fixed,
  own,
  percent,
  percentAsRead,
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
interface Understood {
  method: string;
  value: number | null;
  state: string | null;
  /** How far from its value it may be, of what was judged by eye. */
  within: number | null;
  words: string;
  /** Whether nothing had to be taken for granted: a number alone is not told from one that is only begun. */
  complete: boolean;
}

/** Why a text is not understood; ``ways``: what it may mean, where that is two things. */
interface Unclear {
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
const BETWEEN = /^(?:between |from )?(.+?)\s*(?:and|to|-|–)\s*(.+)$/;
const LIGHTS = /^(no|all|\d{1,2}) lights?(?: (?:on|lit))?$/;
const LEFT = new RegExp(`^(?:(${NUMBER})\\s*([a-z]+) (?:left|to go|range|of range)|range (${NUMBER})\\s*([a-z]+))$`);
const METER = new RegExp(`^(?:meter|counter)\\s*(${NUMBER})\\s*([a-z]*)$`);
const MINUSES = /[−–‒﹣－]/g;
const EMPTYISH: readonly string[] = WORDS.emptyish;
const FULLISH: readonly string[] = WORDS.fullish;
const LOW_LIGHT: readonly string[] = WORDS.lowLight;
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

/** A share of the whole, said without more; null where it is none. */
const plainShare = (text: string): number | null => {
  if (FULL.includes(text) || DRY.includes(text)) return FULL.includes(text) ? 1 : 0;
  const fraction = FRACTION.exec(text);
  if (fraction) {
    const [above, below] = [numberOf(fraction[1] ?? ""), numberOf(fraction[2] ?? "")];
    return below > 0 && above <= below ? above / below : null;
  }
  const perCent = PER_CENT.exec(text);
  if (perCent) return numberOf(perCent[1] ?? "") <= 100 ? numberOf(perCent[1] ?? "") / 100 : null;
  return own(SHARES, text) ?? null;
};

const plainOf = (text: string): string => {
  let plain = text.trim().toLowerCase().replace(MINUSES, "-");
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
    return (
      this.end(plain) ??
      this.byEye(plain) ??
      this.lights(plain) ??
      this.share(plain) ??
      this.wayLeft(plain) ??
      this.meter(plain) ??
      this.amount(plain)
    );
  }

  private says(method: string, value: number | null = null, state: string | null = null, complete = true): Understood {
    return { method, value, state, within: null, words: this.describe(method, value ?? 0, state), complete };
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

  private byEye(plain: string): Understood | null {
    if (EMPTYISH.includes(plain) || (this.store.way && LOW_LIGHT.includes(plain))) return this.between(0, F.nearly);
    if (FULLISH.includes(plain)) return this.between(1 - F.nearly, 1);
    const match = BETWEEN.exec(plain);
    const ends = match ? [plainShare(match[1] ?? ""), plainShare(match[2] ?? "")] : [];
    const [first, second] = ends;
    if (typeof first !== "number" || typeof second !== "number") return null;
    const [low, high] = [Math.min(first, second), Math.max(first, second)];
    const step = this.step(low);
    const after = this.store.marks.filter((mark) => step?.value != null && mark > step.value);
    if (step && after.length > 0 && Math.abs(Math.min(...after) - high) <= F.mark_taken_within) return step;
    return high > low ? this.between(low, high) : null;
  }

  private between(low: number, high: number): Understood {
    const [middle, within] = [(low + high) / 2, (high - low) / 2];
    const { amounts, capacity, unit } = this.store;
    if (amounts === "uses") return this.says("uses", Number(fixed(middle * capacity, 0)));
    const [centre, half] = [middle * capacity, within * capacity];
    const [least, most] = [Math.max(0, centre - half), Math.min(capacity, centre + half)];
    const [first, last] = [fixed((least / capacity) * 100, 0), percent(most / capacity)];
    const shares = last === `${first} %` ? last : `${first} to ${last}`;
    const words = `${span(least, most, unit, this.system)}, ${shares}`;
    return { method: "fraction", value: middle, state: null, within, words, complete: true };
  }

  private lights(plain: string): Understood | null {
    const { gauge, marks } = this.store;
    const match = gauge === "steps" ? LIGHTS.exec(plain) : null;
    if (!match) return null;
    const n = match[1] === "no" ? 0 : match[1] === "all" ? marks.length : Number(match[1]);
    if (n > marks.length) throw this.refuse();
    if (n === 0 || n === marks.length || (marks[0] ?? 0) > 0) return this.says("step", marks[Math.max(0, n - 1)] ?? 0);
    const ways = [marks[n - 1], marks[n]].map((mark) => `${asTyped((mark ?? 0) * 100)}%`);
    throw this.either(ways[0] ?? "", ways[1] ?? "");
  }

  private wayLeft(plain: string): Understood | null {
    const match = this.store.way ? LEFT.exec(plain) : null;
    if (!match) return null;
    const typed = typedUnit(match[2] ?? match[4] ?? "", this.system);
    return typed?.base === "km" ? this.says("range", numberOf(match[1] ?? match[3] ?? "") * typed.factor) : null;
  }

  private meter(plain: string): Understood | null {
    const match = this.store.meter ? METER.exec(plain) : null;
    if (!match) return null;
    const value = numberOf(match[1] ?? "");
    const unit = match[2] ?? "";
    if (unit === "") {
      const how = shownIn(this.store.unit, this.system);
      return this.says("meter", (value - how.offset) / how.factor);
    }
    const typed = typedUnit(unit, this.system);
    return typed?.base === this.store.unit ? this.says("meter", value * typed.factor) : null;
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
    const { amounts, capacity, name, tare_kg: tare, unit } = this.store;
    const said = `${this.shown(base, unit)} is more than the ${this.shown(capacity, unit)} that ${name} holds`;
    return new Doubt(
      amounts === "mass" && tare === null
        ? `${said}; to weigh it with its bottle, enter the empty weight on the Rig view`
        : said,
    );
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
        return `full, ${this.shown(capacity, unit)}`;
      case "volts":
        return `${exact(value)} V${state === null ? "" : { rest: " at rest", load: " under load", charge: " on charge" }[state]}`;
      case "gross": {
        const kg = shownIn("kg", this.system);
        if (lightest !== heaviest) return `${marked(fixed(value * kg.factor, 1))} ${kg.unit} with the bottle in use`;
        return `${marked(fixed(value * kg.factor, 1))} ${kg.unit} less the bottle: ${asRead(value - (tare ?? 0), "kg", this.system)} of fuel`;
      }
      case "range":
        return `${asRead(value, "km", this.system)} left`;
      case "meter":
        return `${asRead(value, unit, this.system)} on its meter`;
      case "uses":
        return `${number(value, 0)} of ${number(capacity, 0)} uses`;
      case "fraction":
        // an amount was typed where the share has more digits than people write
        return digitsOf(value * 100, 1) === null
          ? `${asRead(value * capacity, unit, this.system)}, ${percent(value)}`
          : `${this.shown(value * capacity, unit)}, ${percentAsRead(value)}`;
      default:
        return `${asRead(value, unit, this.system)}, ${percent(value / capacity)}`;
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

/** What was typed; where it may mean two things and one is written as this store was read last, that one. */
export const asLastTime = (store: Reads, text: string, system: System, lastIn: string | null): string => {
  const heard = understand(store, text, system);
  if (!isUnclear(heard) || !lastIn) return text;
  const [way, ...others] = heard.ways.filter((each) => each.endsWith(lastIn));
  return way !== undefined && others.length === 0 ? way : text;
};
