import { Box, Dialog, Input } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";

import { searchQuery } from "../api/queries";
import { useRig } from "../api/rig";
import { Labelled } from "../parts/Labelled";
import { Over } from "../parts/Over";
import { Plain } from "../parts/Plain";
import { useSettled } from "../parts/settled";
import { HELP } from "./helpTexts";
import { VIEWS } from "./views";

interface Line {
  to: string;
  title: string;
  words: string;
}

const MOST_HELP = 4;

/** Views and help, which need no signal. */
const here = (word: string): Line[] => {
  const has = (text: string) => text.toLowerCase().includes(word.toLowerCase());
  const views = VIEWS.filter(({ label, what }) => has(`${label} ${what}`));
  const help = Object.entries(HELP).flatMap(([to, answers]) =>
    answers.filter(({ asks, says }) => has(`${asks} ${says}`)).map(({ asks, says }) => ({ to, asks, says })),
  );
  const once = [...new Map(help.map((each) => [each.asks, each])).values()].slice(0, MOST_HELP);
  return [
    ...views.map(({ to, label, what }) => ({ to, title: label, words: what })),
    ...once.map(({ to, asks, says }) => ({ to, title: asks.replaceAll("*", ""), words: says })),
  ];
};

/** Search over log, notes, places and help. */
export const Search = ({ close }: { close: () => void }) => {
  const [word, setWord] = useState("");
  const asked = useSettled(word.trim(), 250);
  const answer = useQuery(searchQuery(useRig(), asked));
  const found = word.trim() === "" ? [] : [...(answer.data?.found ?? []), ...here(word.trim())];
  return (
    <Over open close={close} title="Search" foot={<Plain onClick={close}>Close</Plain>}>
      <Dialog.Body>
        <Labelled label="In the log, notes, places and help">
          <Input
            type="search"
            bg="raised"
            borderColor="edge"
            autoFocus
            autoComplete="off"
            value={word}
            onChange={(event) => setWord(event.target.value)}
          />
        </Labelled>
        <Box as="ul" listStyleType="none" mt="2" aria-label="What was found" aria-live="polite">
          {found.map(({ to, title, words }) => (
            <Box as="li" key={`${to} ${title}`} borderTopWidth="1px" borderColor="rule">
              <Box asChild display="block" py="2" minH="11">
                <Link to={to} onClick={close}>
                  <Box fontWeight="600">{title}</Box>
                  <Box color="soft" fontSize="sm">
                    {words}
                  </Box>
                </Link>
              </Box>
            </Box>
          ))}
          {word.trim() !== "" && found.length === 0 && asked === word.trim() && !answer.isFetching && (
            <Box as="li" color="soft">
              Nothing has that word.
            </Box>
          )}
        </Box>
      </Dialog.Body>
    </Over>
  );
};
