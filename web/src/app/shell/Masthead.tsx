import { Box, chakra, Flex } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import { Button } from "@/ui/Button";
import { Kbd } from "@/ui/Kbd";
import { Wordmark } from "@/ui/Wordmark";
import { BrandMenu } from "./BrandMenu";
import { useHere } from "./BrandShell";
import { PersonMenu } from "./PersonMenu";

const Section = chakra("span", {
  base: {
    display: "block",
    color: "faded",
    pt: "18px",
    pb: "15px",
    lineHeight: "20px",
    borderBottom: "3px solid transparent",
    "[data-status=active] > &": { color: "ink", fontWeight: "600", borderColor: "pimenton" },
  },
});

export function Masthead({ onKeys }: { onKeys: () => void }) {
  const { brand, may } = useHere();
  return (
    <Flex
      as="header"
      minH="56px"
      align="center"
      gap={{ base: "10px", md: "18px" }}
      px={{ base: "12px", md: "24px" }}
      borderBottomWidth="1px"
      borderColor="rule"
      flexWrap="wrap"
    >
      <Link to="/$brand/calendar" params={{ brand: brand.slug }} search={{}} aria-label="Menudo, to the calendar">
        <Wordmark />
      </Link>
      <BrandMenu />
      <Flex as="nav" aria-label="Sections" gap="20px" ml={{ md: "14px" }} flex="1">
        <Link to="/$brand/calendar" params={{ brand: brand.slug }} search={{}} activeOptions={{ includeSearch: false }}>
          <Section>Calendar</Section>
        </Link>
      </Flex>
      <Box display={{ base: "none", md: "block" }}>
        <Button kind="quiet" onClick={onKeys}>
          Keys <Kbd>?</Kbd>
        </Button>
      </Box>
      <PersonMenu />
      {may("write") && (
        <Button kind="main" asChild>
          <Link to="/$brand/bench/$post" params={{ brand: brand.slug, post: "new" }} search={{}}>
            New post <Kbd>n</Kbd>
          </Link>
        </Button>
      )}
    </Flex>
  );
}
