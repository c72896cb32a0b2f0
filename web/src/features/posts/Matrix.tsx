import { Box, chakra, Flex } from "@chakra-ui/react";
import { Fragment, memo, type ReactNode, useCallback, useMemo, useState } from "react";
import type { BenchCheck, Delivery, Network, Problem, Profile, Schemas } from "@/api/client";
import { ColumnHead } from "./ColumnHead";
import { Cell, master, RowHead } from "./cells";
import { FieldsCell } from "./cells/FieldsCell";
import { Findings } from "./cells/Findings";
import { LinkCell } from "./cells/LinkCell";
import { OwnThread } from "./cells/OwnThread";
import { MasterTime, VersionTime } from "./cells/TimeCell";
import { type BenchColumn, contentOf, type Draft, withMaster } from "./draft";
import { MediaCell } from "./media/MediaCell";
import { OneColumn, useNarrow } from "./narrow";
import { columnName, usePlace } from "./place";
import { ProofCell } from "./proof/ProofCell";
import { setProofView, useProofView } from "./proof/view";
import { MasterText, VersionText } from "./TextRows";
import type { When } from "./usePlan";

type Props = {
  draft: Draft;
  checks: Map<string, BenchCheck>;
  /** Whether the checks are of the draft as it stands. */
  isChecked: boolean;
  profiles: Profile[];
  networks: Map<string, Network>;
  deliveries: Delivery[];
  problem: Problem | null;
  when: When;
  setWhen: (when: When) => void;
  whenProblem: Problem | null;
  times: Schemas["TimeOut"][];
};

const NOTHING = {};
const ownEdge = (own: boolean) => (own ? "inset 3px 0 var(--m-colors-ink)" : undefined);

/** Rows are fields; columns are the master and each network's version. */
export const Matrix = memo(function Matrix({
  draft,
  checks,
  isChecked,
  profiles,
  networks,
  deliveries,
  problem,
  ...time
}: Props) {
  const { columns, change } = usePlace();
  const { dark, wide } = useProofView();
  const least = wide ? 380 : 256;
  const grid = `92px 320px repeat(${Math.max(columns.length, 1)}, minmax(${least}px, ${least + 170}px))`;
  const findings = (key: string, field: (name: string) => boolean) =>
    (checks.get(key)?.findings ?? []).filter((f) => field(f.field));
  const content = (key: string) => contentOf(draft, key, isChecked ? checks.get(key)?.written : undefined);
  const narrow = useNarrow();
  const [one, setOne] = useState(0);
  // On a narrow screen one column at a time: the master first.
  const at = Math.min(one, columns.length);
  const inSight = narrow ? columns.slice(at - 1, at) : columns;
  const row = (name: string, mine: ReactNode, theirs: (column: BenchColumn) => ReactNode) => (
    <>
      {(!narrow || name) && <RowHead>{name}</RowHead>}
      {(!narrow || at === 0) && <Cell {...master}>{mine}</Cell>}
      {inSight.map((column) => (
        <Fragment key={column.key}>{theirs(column)}</Fragment>
      ))}
      {columns.length === 0 && (
        <Cell color="faded">{name === "Text" ? "Choose a profile, and its network stands here." : ""}</Cell>
      )}
    </>
  );
  const setText = useCallback((text: string) => change((d) => withMaster(d, { text })), [change]);
  const setComment = useCallback((text: string) => change((d) => withMaster(d, { first_comment: text })), [change]);
  const values = draft.master;
  const chosen = useMemo(() => profiles.filter((p) => draft.profiles.includes(p.id)), [profiles, draft.profiles]);
  return (
    <Box overflow="auto" flex="1" borderTopWidth="1px" borderColor="rule">
      {narrow && <OneColumn at={at} columns={columns} networks={networks} checks={checks} set={setOne} />}
      <Box
        display="grid"
        gridTemplateColumns={narrow ? "minmax(0, 1fr)" : grid}
        minW={narrow ? undefined : `${412 + least * columns.length}px`}
      >
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
          (c) => (
            <ColumnHead column={c} network={networks.get(c.network)} check={checks.get(c.key)} profiles={profiles} />
          ),
        )}
        {row(
          "Text",
          <MasterText part="text" value={values.text ?? ""} change={setText} error={problem?.at("/master/text")} />,
          (c) => (
            <Cell boxShadow={ownEdge(draft.overrides[c.key]?.text != null)}>
              <VersionText
                part="text"
                column={c}
                own={draft.overrides[c.key]?.text}
                master={values.text ?? ""}
                check={checks.get(c.key)}
              />
              {draft.overrides[c.key]?.form === "story" && (
                <Box color="faded" fontSize="12px">
                  A story shows no text. Write over its frames: open one in Media.
                </Box>
              )}
              <Findings column={c} findings={findings(c.key, (f) => f === "text")} />
            </Cell>
          ),
        )}
        {row(
          "Media",
          <MediaCell label="the master" media={values.media ?? []} shown={values.shown ?? NOTHING} />,
          (c) => {
            const own = draft.overrides[c.key];
            const name = columnName(c, networks);
            const said = content(c.key);
            return (
              <Cell boxShadow={ownEdge(own?.media != null || Object.keys(own?.shown ?? {}).length > 0)}>
                {own?.media != null && <OwnThread label={`the media for ${name}`} parts={["media"]} column={c} />}
                <MediaCell
                  label={name}
                  media={said.media ?? []}
                  shown={said.shown ?? NOTHING}
                  column={c}
                  inherited={own?.media == null}
                  check={checks.get(c.key)}
                  story={own?.form === "story"}
                />
                <Findings column={c} findings={findings(c.key, (f) => f.startsWith("media"))} />
              </Cell>
            );
          },
        )}
        {row(
          "Link",
          <LinkCell
            label="Link of the master"
            link={values.link ?? ""}
            tags={values.link_tags ?? 0}
            card={values.card ?? null}
            error={problem?.at("/master/link")}
          />,
          (c) => {
            const own = draft.overrides[c.key];
            const name = columnName(c, networks);
            const takes = networks.get(c.network)?.takes_link !== false || own?.link || values.link;
            const mine = own?.link != null || own?.card != null || own?.link_tags != null;
            const said = content(c.key);
            return (
              <Cell boxShadow={ownEdge(mine)}>
                {mine && <OwnThread label={`Link for ${name}`} parts={["link", "card", "link_tags"]} column={c} />}
                {takes ? (
                  <LinkCell
                    label={`Link for ${name}`}
                    link={said.link ?? ""}
                    tags={said.link_tags ?? 0}
                    card={said.card ?? null}
                    inherited={own?.link == null}
                    column={c}
                    check={checks.get(c.key)}
                  />
                ) : (
                  <Box color="faded">{name} takes no link.</Box>
                )}
                <Findings column={c} findings={findings(c.key, (f) => f === "link")} />
              </Cell>
            );
          },
        )}
        {row(
          "Comment",
          <MasterText
            part="first_comment"
            value={values.first_comment ?? ""}
            change={setComment}
            error={problem?.at("/master/first_comment")}
          />,
          (c) => {
            const own = draft.overrides[c.key]?.first_comment;
            const network = networks.get(c.network);
            const takes = network?.takes_comment !== false || own || values.first_comment;
            const story = draft.overrides[c.key]?.form === "story";
            return (
              <Cell boxShadow={ownEdge(own != null)}>
                {!takes || story ? (
                  <Box color="faded">{story ? "A story has none." : `${network?.name} has none.`}</Box>
                ) : (
                  <VersionText
                    part="first_comment"
                    column={c}
                    own={own}
                    master={values.first_comment ?? ""}
                    check={checks.get(c.key)}
                  />
                )}
                <Findings column={c} findings={findings(c.key, (f) => f === "first_comment")} />
              </Cell>
            );
          },
        )}
        {columns.some((c) => networks.get(c.network)?.fields.length || networks.get(c.network)?.takes_stories) &&
          row("Its own", <Box color="faded">What each network asks for beside these.</Box>, (c) => (
            <Cell>
              <FieldsCell
                column={c}
                network={networks.get(c.network)}
                values={draft.overrides[c.key]?.fields ?? (NOTHING as Record<string, string>)}
                form={draft.overrides[c.key]?.form ?? "post"}
                check={checks.get(c.key)}
              />
            </Cell>
          ))}
        {row(
          "Time",
          <MasterTime
            when={time.when}
            setWhen={time.setWhen}
            problem={time.whenProblem}
            kept={deliveries.some((d) => d.state === "unplanned" && d.wall_time !== null)}
            profiles={chosen}
          />,
          (c) => (
            <Cell>
              <VersionTime profiles={c.profiles} deliveries={deliveries} times={time.times} />
            </Cell>
          ),
        )}
        {row(
          "Proof",
          <Box color="faded">
            Proofs show what followers see, in each network's own shape.
            <Flex gap="6px" mt="8px" flexWrap="wrap">
              <Look on={dark} words="By night" press={() => setProofView({ dark: !dark })} />
              <Look on={wide} words="Wide" press={() => setProofView({ wide: !wide })} />
            </Flex>
          </Box>,
          (c) => (
            <Cell>
              <ProofCell column={checks.get(c.key)} network={networks.get(c.network)} profiles={c.profiles} />
            </Cell>
          ),
        )}
      </Box>
    </Box>
  );
});

function Look({ on, words, press }: { on: boolean; words: string; press: () => void }) {
  return (
    <chakra.button
      type="button"
      aria-pressed={on}
      onClick={press}
      borderWidth="1px"
      borderColor={on ? "ink" : "rule"}
      color={on ? "ink" : "faded"}
      borderRadius="3px"
      px="8px"
      minH="26px"
      fontSize="12px"
      cursor="pointer"
    >
      {words}
    </chakra.button>
  );
}
