import { chakra } from "@chakra-ui/react";

/** A quiet button: text with a thin edge. Tall enough for a thumb. */
export const Plain = chakra(
  "button",
  {
    base: {
      display: "inline-flex",
      alignItems: "center",
      justifyContent: "center",
      gap: "1",
      // 44 px, a thumb's width, wherever there is no mouse
      minH: { base: "11", md: "10" },
      minW: { base: "11", md: "10" },
      flexShrink: 0,
      px: "3",
      py: "1.5",
      borderWidth: "1px",
      borderColor: "rule",
      borderRadius: "md",
      bg: "raised",
      color: "ink",
      cursor: "pointer",
      textAlign: "center",
      _hover: { borderColor: "edge" },
      _disabled: { opacity: 0.55, cursor: "default" },
      "&[aria-pressed=true]": { bg: "ink", color: "page", borderColor: "ink" },
    },
    variants: {
      tone: {
        plain: {},
        strong: { bg: "accent", color: "onAccent", borderColor: "accent", fontWeight: 600 },
        warn: { color: "warn", borderColor: "warn" },
      },
      size: { md: {}, sm: { minH: { base: "11", md: "8" }, px: "2", py: "1", fontSize: "sm" } },
    },
    defaultVariants: { tone: "plain", size: "md" },
  },
  { defaultProps: { type: "button" } },
);
