import { chakra, Flex } from "@chakra-ui/react";
import { useSyncExternalStore } from "react";
import type { Column, Network } from "@/api/client";
import type { BenchColumn } from "./draft";
import { columnName } from "./place";

const QUERY = "(max-width: 767px)";

/** Whether the screen has room for one column only. */
export function useNarrow(): boolean {
  return useSyncExternalStore(
    (listener) => {
      const media = window.matchMedia(QUERY);
      media.addEventListener("change", listener);
      return () => media.removeEventListener("change", listener);
    },
    () => window.matchMedia(QUERY).matches,
  );
}

type Props = {
  at: number;
  columns: BenchColumn[];
  networks: Map<string, Network>;
  checks: Map<string, Column>;
  set: (at: number) => void;
};

/** Which column is in sight: the master, or one of the networks. */
export function OneColumn({ at, columns, networks, checks, set }: Props) {
  return (
    <Flex role="tablist" aria-label="Columns" gap="6px" p="8px 12px" overflowX="auto" bg="paper" tabIndex={-1}>
      {["Master", ...columns.map((column) => columnName(column, networks))].map((name, n) => {
        const stops = n > 0 && checks.get(columns[n - 1]?.key ?? "")?.fits === false;
        return (
          <chakra.button
            key={name}
            type="button"
            role="tab"
            aria-selected={n === at}
            onClick={() => set(n)}
            whiteSpace="nowrap"
            minH="32px"
            px="10px"
            borderWidth="1px"
            borderRadius="3px"
            borderColor={n === at ? "ink" : "rule"}
            fontWeight={n === at ? "600" : undefined}
            color={stops ? "pimenton" : undefined}
          >
            {name}
            {stops && " !"}
          </chakra.button>
        );
      })}
    </Flex>
  );
}
