/** One question that a view raises, and its short answer. ``picture``: the lane of this rig that shows it. */
export interface Answer {
  asks: string;
  says: string;
  picture?: "first" | "bank" | "water" | "gas";
}

const LINE: Answer = {
  asks: "What is a lode line?",
  says: "The level at which a store sends you away: a tank that is nearly dry, a waste tank that is nearly full, a bank at the depth you want to keep. It is the dashed line across each lane. You set it under Rig.",
  picture: "first",
};
const RANGE: Answer = {
  asks: "Why a range and not a day?",
  says: "Nobody knows how much you will use. The coloured fan holds what happens in 8 of 10 cases. It is narrow after a fill or a good reading and grows with the days.",
};
const LEAST: Answer = {
  asks: "What do I log at least?",
  says: "One reading of each store every few days, and every fill, dump and swap. Two of three days are enough; what was forgotten is asked about.",
};
const AT_LINE: Answer = {
  asks: "Why does it say that a store is at its line?",
  says: "By your last readings and what you use, more likely than not it is there. If the gauge shows something else, log that: a reading counts more than a guess.",
};
const PANEL: Answer = {
  asks: "What can a light panel say?",
  says: "Only that the level lies between this light and the next. Two lights may mean a third or two thirds. A fill to the brim or a dump tells far more, and between them the use is learned.",
};
const VOLTS: Answer = {
  asks: "What does 14.1 V mean?",
  says: "That the bank is being charged, not how full it is. At rest, an hour after charge and load: 12.7 V is a full lead bank, 12.2 V about half. Lithium iron cells stay near 13.2 V over most of their range, so volts say little of them.",
};

/** By the address of the view, which is what is asked there. */
export const HELP: Record<string, readonly Answer[]> = {
  "/": [LINE, RANGE, AT_LINE, LEAST],
  "/round": [
    LEAST,
    {
      asks: "What does *as expected* log?",
      says: "A reading of what the gauge should show by now, as if you had typed it. Touch it only after you looked at the gauge.",
    },
    PANEL,
    VOLTS,
    {
      asks: "What if I typed something wrong?",
      says: "Undo stands beside it. Later, open the day in the Logbook: a correction keeps what stood before.",
    },
  ],
  "/log": [
    {
      asks: "Why do the sums not close?",
      says: "What was read at the end of a day is not what the readings before and your entries lead to. Something was not logged, or a gauge errs. The day says by how much.",
    },
    {
      asks: "Is a correction seen?",
      says: "Yes. What stood before stays beside it, with who changed it and when.",
    },
    LEAST,
  ],
  "/energy": [
    { ...LINE, picture: "bank" },
    VOLTS,
    {
      asks: "Why is the yield of a sunny day not the array's strength?",
      says: "When the bank is full the controller holds the array back. Such a day says only that the sun gave at least that much.",
    },
    {
      asks: "What does *with no sun at all* say?",
      says: "How many days the bank carries your usual loads if the sky gives nothing: the days of autonomy.",
    },
  ],
  "/water": [
    { ...LINE, picture: "water" },
    {
      asks: "What is a ration?",
      says: "So many litres a day that the water lasts, and the waste tank does not overflow, until the day you chose. What you mind least is cut first.",
    },
    {
      asks: "Why does grey water come first?",
      says: "Where the waste tank is the smaller one it is full before the fresh tank is empty. Then every litre you save counts twice.",
    },
    PANEL,
  ],
  "/fuel": [
    { ...LINE, picture: "gas" },
    {
      asks: "Why can gas run out with some left in the bottle?",
      says: "In the cold butane gives no gas, and a small bottle gives too little for a heater. What the cold locks in is not counted for that night.",
    },
    {
      asks: "Why must diesel stay in the tank?",
      says: "The heater's pick-up stops before the tank is empty, and you want to reach the next pump. Both are the tank's line.",
    },
  ],
  "/stops": [
    {
      asks: "How is the plan chosen?",
      says: "The fewest and cheapest outings with which the chance that anything passes its line stays under what you accept. An outing may visit several places.",
    },
    {
      asks: "What is a ticket?",
      says: "The list for one outing: what to do, in which order, how much and how long. Each tick writes the log.",
    },
    {
      asks: "Can I plan a stop myself?",
      says: "Yes: drag it on the Horizon, or plan it at a place below. The plan is then made round it.",
    },
  ],
  "/rig": [
    LINE,
    {
      asks: "What does *assumed* mean?",
      says: "You did not say, so common practice stands in. Change it once you know; ranges become narrower.",
    },
    {
      asks: "Why do six 6 V units of 225 Ah make 675 Ah?",
      says: "Two in series add volts, not amp-hours. Three such pairs side by side add amp-hours: 12 V, 675 Ah.",
    },
  ],
  "/review": [
    {
      asks: "How is a forecast judged?",
      says: "What was shown is kept. Of all ranges that should hold in 8 of 10 cases, about 8 of 10 have to.",
    },
    {
      asks: "What if too few hold?",
      says: "Then the ranges of that store are made wider from now on, until they do.",
    },
  ],
};
