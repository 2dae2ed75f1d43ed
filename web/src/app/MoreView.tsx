import { Box, Heading } from "@chakra-ui/react";
import { Link } from "react-router";

import { Plain } from "../parts/Plain";
import { useTitle } from "../parts/title";
import { SEARCH } from "./Shortcuts";
import { VIEWS } from "./views";

const BESIDE = [
  { to: "/set-up", label: "Another rig", what: "Set one up, bring one in, or copy this one." },
  { to: "/account", label: "Account", what: "Your name, password, language and units, signing out." },
] as const;

/** What is not used every day, each with what it is for. */
export const MoreView = () => {
  useTitle("More");
  return (
    <Box maxW="40rem" mx="auto">
      <Heading as="h1" fontFamily="heading" fontSize="2xl" mb="2">
        More
      </Heading>
      <Plain mb="3" onClick={() => document.getElementById(SEARCH)?.click()}>
        Search log, notes, places and help
      </Plain>
      <Box as="ul" listStyleType="none">
        {[...VIEWS.filter((view) => !view.daily), ...BESIDE].map(({ to, label, what }) => (
          <Box as="li" key={to} borderTopWidth="1px" borderColor="rule">
            <Box asChild display="block" py="3" minH="14">
              <Link to={to}>
                <Box fontWeight="600" fontSize="lg">
                  {label}
                </Box>
                <Box color="soft">{what}</Box>
              </Link>
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
};
