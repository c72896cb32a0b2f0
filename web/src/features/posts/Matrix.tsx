import { Box } from "@chakra-ui/react";
import { Fragment, type ReactNode } from "react";
import type { Asset, Column, Delivery, Network, Problem, Profile } from "@/api/client";
import { ColumnHead } from "./ColumnHead";
import { Cell, master, RowHead } from "./cells";
import { type Draft, withField, withOwn } from "./draft";
import { FieldsCell } from "./FieldsCell";
import { Findings } from "./Findings";
import { LinkCell } from "./LinkCell";
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
            <ColumnHead
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
                <Findings
                  findings={(column?.findings ?? []).filter((f) => ["text", "first_comment"].includes(f.field))}
                />
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
          "Link",
          <LinkCell
            label="Link of the master"
            value={draft.link}
            change={(link) => change((d) => ({ ...d, link }))}
            error={problem?.at("/master/link")}
          />,
          (network) => {
            const own = draft.own[network]?.link;
            const name = networks.get(network)?.name ?? network;
            return (
              <Cell boxShadow={own != null ? "inset 3px 0 var(--m-colors-ink)" : undefined}>
                {networks.get(network)?.takes_link === false && !own && !draft.link ? (
                  <Box color="faded">{name} takes no link.</Box>
                ) : (
                  <LinkCell
                    label={`Link for ${name}`}
                    value={own ?? draft.link}
                    inherited={own == null}
                    putBack={() => change((d) => withOwn(d, network, { link: null }))}
                    change={(link) => change((d) => withOwn(d, network, { link }))}
                  />
                )}
                <Findings findings={(checks.get(network)?.findings ?? []).filter((f) => f.field === "link")} />
              </Cell>
            );
          },
        )}
        {columns.some((network) => networks.get(network)?.fields.length) &&
          row("Its own", <Box color="faded">What each network asks for beside these.</Box>, (network) => (
            <Cell>
              <FieldsCell
                network={networks.get(network)}
                values={draft.own[network]?.fields ?? {}}
                change={(name, value) => change((d) => withField(d, network, name, value))}
                column={checks.get(network)}
              />
            </Cell>
          ))}
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
