import { Box, chakra, Flex } from "@chakra-ui/react";
import { Fragment, type ReactNode } from "react";
import type { Asset, Column, Delivery, Network, Problem, Profile } from "@/api/client";
import { NetworkTile } from "@/ui/NetworkTile";
import { StateShape } from "@/ui/StateShape";
import { type Draft, withOwn } from "./draft";
import { Findings } from "./Findings";
import { MediaCell } from "./MediaCell";
import { ProofCell } from "./ProofCell";
import { TextCell } from "./TextCell";
import { MasterTime, VersionTime } from "./TimeCell";
import type { When } from "./usePlan";

type Props = {
  draft: Draft;
  change: (how: (draft: Draft) => Draft) => void;
  assets: Map<number, Asset>;
  columns: string[];
  chosen: Profile[];
  networks: Map<string, Network>;
  checks: Map<string, Column>;
  deliveries: Delivery[];
  problem: Problem | null;
  when: When;
  setWhen: (when: When) => void;
  whenProblem: Problem | null;
  added: (asset: Asset) => void;
};

const Cell = chakra(Box, {
  base: {
    borderBottomWidth: "1px",
    borderLeftWidth: "1px",
    borderColor: "rule",
    p: "8px 12px",
    bg: "card",
    minW: "0",
    fontSize: "13px",
    lineHeight: "18px",
  },
});
const RowHead = chakra(Box, {
  base: {
    borderBottomWidth: "1px",
    borderColor: "rule",
    bg: "paper",
    color: "faded",
    fontSize: "12px",
    fontWeight: "600",
    p: { base: "8px 6px 8px 12px", md: "8px 8px 8px 24px" },
  },
});
const master = { borderRightWidth: "2px", borderRightColor: "ink" } as const;

/** Rows are fields; columns are the master and each network's version. */
export function Matrix(props: Props) {
  const { draft, change, assets, columns, networks, checks, chosen, deliveries, problem } = props;
  const grid = `92px 320px repeat(${Math.max(columns.length, 1)}, minmax(260px, 460px))`;
  const row = (name: string, mine: ReactNode, theirs: (network: string) => ReactNode) => (
    <>
      <RowHead>{name}</RowHead>
      <Cell {...master}>{mine}</Cell>
      {columns.map((network) => (
        <Fragment key={network}>{theirs(network)}</Fragment>
      ))}
      {columns.length === 0 && (
        <Cell color="faded">{name === "Text" ? "Choose a profile, and its network stands here." : ""}</Cell>
      )}
    </>
  );
  return (
    <Box overflow="auto" flex="1" borderTopWidth="1px" borderColor="rule">
      <Box display="grid" gridTemplateColumns={grid} minW="max-content">
        {row(
          "",
          <>
            <Box fontFamily="heading" fontSize="18px" lineHeight="22px">
              Master
            </Box>
            <Box color="faded" fontSize="11.5px">
              what every network inherits
            </Box>
          </>,
          (network) => (
            <Head
              network={networks.get(network)}
              column={checks.get(network)}
              profiles={chosen.filter((p) => p.network === network)}
            />
          ),
        )}
        {row(
          "Text",
          <TextCell
            label="Text of the master"
            value={draft.text}
            change={(text) => change((d) => ({ ...d, text }))}
            error={problem?.at("/master/text")}
            autoFocus={!draft.text}
          />,
          (network) => {
            const own = draft.own[network]?.text;
            const column = checks.get(network);
            return (
              <Cell boxShadow={own != null ? "inset 3px 0 var(--m-colors-ink)" : undefined}>
                <TextCell
                  label={`Text for ${networks.get(network)?.name}`}
                  value={own ?? draft.text}
                  inherited={own == null}
                  putBack={() => change((d) => withOwn(d, network, { text: null }))}
                  change={(text) => change((d) => withOwn(d, network, { text }))}
                  length={column}
                />
                <Findings findings={(column?.findings ?? []).filter((f) => !f.field.startsWith("media"))} />
              </Cell>
            );
          },
        )}
        {row(
          "Media",
          <MediaCell
            label="the master"
            media={draft.media}
            assets={assets}
            added={props.added}
            change={(media) => change((d) => ({ ...d, media }))}
            describes
          />,
          (network) => {
            const own = draft.own[network]?.media;
            return (
              <Cell boxShadow={own != null ? "inset 3px 0 var(--m-colors-ink)" : undefined}>
                <MediaCell
                  label={networks.get(network)?.name ?? network}
                  media={own ?? draft.media}
                  assets={assets}
                  added={props.added}
                  inherited={own == null}
                  putBack={() => change((d) => withOwn(d, network, { media: null }))}
                  change={(media) => change((d) => withOwn(d, network, { media }))}
                />
                <Findings findings={(checks.get(network)?.findings ?? []).filter((f) => f.field.startsWith("media"))} />
              </Cell>
            );
          },
        )}
        {row(
          "Time",
          <MasterTime when={props.when} setWhen={props.setWhen} problem={props.whenProblem} />,
          (network) => (
            <Cell>
              <VersionTime profiles={chosen.filter((p) => p.network === network)} deliveries={deliveries} />
            </Cell>
          ),
        )}
        {row(
          "Proof",
          <Box color="faded">Proofs show what followers see, in each network's own shape.</Box>,
          (network) => (
            <Cell>
              <ProofCell column={checks.get(network)} profile={chosen.find((p) => p.network === network)} />
            </Cell>
          ),
        )}
      </Box>
    </Box>
  );
}

function Head({
  network,
  column,
  profiles,
}: {
  network: Network | undefined;
  column: Column | undefined;
  profiles: Profile[];
}) {
  const stops = column?.findings.filter((f) => f.level === "stops").length ?? 0;
  const advice = column?.findings.filter((f) => f.level === "advice").length ?? 0;
  return (
    <Cell bg="paper">
      <Flex gap="10px" align="flex-start">
        {network && <NetworkTile letters={network.letters} shape={network.shape} size={26} />}
        <Box minW="0" flex="1">
          <b>{network?.name}</b>
          <Box color="faded" fontSize="11.5px" lineHeight="15px">
            {profiles.map((p) => p.handle).join(", ")}
          </Box>
        </Box>
        {column && (
          <Flex
            gap="4px"
            align="center"
            fontWeight="700"
            fontSize="11.5px"
            color={stops ? "pimenton" : advice ? "maizeInk" : "epazote"}
            data-testid="fits"
          >
            <StateShape state={stops ? "in_trouble" : "published"} size={11} />
            {stops ? `${stops} ${stops === 1 ? "stop" : "stops"}` : advice ? `${advice} advice` : "fits"}
          </Flex>
        )}
      </Flex>
    </Cell>
  );
}
