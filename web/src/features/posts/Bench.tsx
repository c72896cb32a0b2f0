import { Box, chakra, Flex } from "@chakra-ui/react";
import { useNavigate } from "@tanstack/react-router";
import { type KeyboardEvent, useCallback, useDeferredValue, useEffect, useMemo, useRef, useState } from "react";
import type { Asset, BenchCheck, Delivery, Post, Profile, Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useHere } from "@/app/useHere";
import { useNetworks, useSets } from "@/features/profiles/queries";
import { SignBar } from "@/features/signoff/SignBar";
import { TalkButton } from "@/features/talk/TalkButton";
import { Button } from "@/ui/Button";
import { StateShape, stateWords } from "@/ui/StateShape";
import { ClashBanner } from "./ClashBanner";
import { columnsOf, type Draft } from "./draft";
import { Foot } from "./Foot";
import { BenchMenu } from "./keeping/BenchMenu";
import { MarkPicker } from "./MarkPicker";
import { Matrix } from "./Matrix";
import { ProfilePicker } from "./ProfilePicker";
import { columnName, PlaceContext } from "./place";
import { useCheck, usePost, usePresence } from "./queries";
import type { SaveState } from "./saving/SaveQueue";
import { useBench } from "./useBench";
import { usePlan, useTimes } from "./usePlan";

type Props = {
  profiles: Profile[];
  loaded: Post | null;
  first: Draft;
  date: string | undefined;
  time: string | undefined;
  onMade: (id: number) => void;
};

const SAVED: Record<SaveState, string> = {
  kept: "kept",
  changed: "not kept yet",
  keeping: "being kept",
  failed: "could not be kept",
};
const NO_CHECKS = new Map();
const NO_TIMES: Schemas["TimeOut"][] = [];
const NO_DELIVERIES: Delivery[] = [];

/** The Bench: a matrix of fields by master and networks, and planning at its foot. */
export function Bench({ profiles, loaded, first, date, time, onMade }: Props) {
  const { brand } = useBrandContext();
  const networks = useNetworks();
  const sets = useSets(brand.slug).data ?? [];
  const navigate = useNavigate();
  const here = useHere();
  const bench = useBench(brand.slug, loaded, first, onMade);
  const { draft, change, adopt, now } = bench;
  const page = useRef<HTMLDivElement>(null);
  const fresh = usePost(brand.slug, bench.id).data;
  const others = usePresence(brand.slug, bench.id);
  const [uploaded, setUploaded] = useState<Asset[]>([]);
  useEffect(() => {
    if (fresh) adopt(fresh);
  }, [fresh, adopt]);

  const assets = useMemo(
    () => new Map([...(fresh?.assets ?? loaded?.assets ?? []), ...uploaded].map((asset) => [asset.id, asset])),
    [fresh, loaded, uploaded],
  );
  const chosen = useMemo(() => profiles.filter((p) => draft.profiles.includes(p.id)), [profiles, draft.profiles]);
  // Which profiles are split off decides the columns, not what is typed in them.
  const apart = Object.keys(draft.overrides)
    .filter((key) => key.includes("/"))
    .join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: columns stay the same while one types
  const columns = useMemo(() => columnsOf(draft, chosen), [chosen, apart]);
  const versions = columns.map((c) => ({
    network: c.network,
    profile: c.profile,
    name: columnName(c, networks),
  }));
  const added = useCallback(
    (asset: Asset) => setUploaded((all) => [...all.filter((a) => a.id !== asset.id), asset]),
    [],
  );
  const place = useMemo(
    () => ({ networks, assets, columns, change, added, now }),
    [networks, assets, columns, change, added, now],
  );
  const plan = usePlan(bench, date, time, (post, deliveryDate, delivery) => {
    const there = [`/${brand.slug}/bench/new`, `/${brand.slug}/bench/${post}`].includes(here());
    const search = { show: delivery, from: deliveryDate };
    if (there) void navigate({ to: "/$brand/calendar", params: { brand: brand.slug }, search });
  });
  const times = useTimes(brand.slug, bench.id, fresh?.revision, plan.when);
  const check = useCheck(brand.slug, draft, columns, assets, plan.when.kind === "at" ? plan.when.date || null : null);
  // Nine columns of findings are drawn when no key is waiting.
  const checks = useDeferredValue<Map<string, BenchCheck>>(check.data ?? NO_CHECKS);

  function keyDown(event: KeyboardEvent) {
    if (event.ctrlKey && event.key === "Enter") {
      event.preventDefault();
      void plan.go();
    }
    const step = event.altKey ? { ArrowLeft: -1, ArrowRight: 1 }[event.key] : undefined;
    if (!step || !page.current) return;
    event.preventDefault();
    const texts = [...page.current.querySelectorAll<Element>("textarea[data-column]")] as HTMLElement[];
    const at = texts.indexOf(document.activeElement as HTMLElement);
    texts[Math.min(Math.max(at + step, 0), texts.length - 1)]?.focus();
  }

  const state = fresh?.state ?? "draft";
  return (
    <PlaceContext value={place}>
      <Box ref={page} onKeyDown={keyDown} display="flex" flexDirection="column" flex="1" minH="0">
        <Flex align="center" gap="14px" px={{ base: "12px", md: "24px" }} py="10px" flexWrap="wrap">
          <chakra.h1 position="absolute" w="1px" h="1px" overflow="hidden" clipPath="inset(50%)">
            Bench: {draft.title || "untitled post"}
          </chakra.h1>
          <StateShape state={state === "draft" ? "unplanned" : state === "signed_off" ? "planned" : state} size={14} />
          <chakra.input
            aria-label="Title, for the team only"
            placeholder="Untitled"
            maxLength={200}
            value={draft.title}
            onChange={(e) => change((d) => ({ ...d, title: e.target.value }))}
            fontFamily="heading"
            fontSize="22px"
            lineHeight="28px"
            bg="transparent"
            minW="180px"
            w={`${Math.max(draft.title.length, 9) + 1}ch`}
            maxW="50vw"
          />
          <Box color={bench.saved === "failed" ? "pimenton" : "faded"} role="status" data-testid="kept">
            {stateWords(state).replaceAll("_", " ")} ·{" "}
            {bench.id === null && bench.saved === "kept" ? "nothing to keep yet" : SAVED[bench.saved]}
          </Box>
          {others.length > 0 && (
            <Box color="anil" fontWeight="600" role="status" data-testid="others-here">
              {others.map((person) => person.name).join(" and ")} {others.length === 1 ? "is" : "are"} here too
            </Box>
          )}
          <Box flex="1" />
          <ProfilePicker
            profiles={profiles}
            sets={sets}
            chosen={draft.profiles}
            choose={(ids) => change((d) => ({ ...d, profiles: ids }))}
          />
          <MarkPicker draft={draft} change={change} />
          {/* In their places from the start: what one is about to press doesn't move when the post is first kept. */}
          {bench.id === null ? (
            <Button disabled>Talk</Button>
          ) : (
            <TalkButton id={bench.id} networks={networks} versions={versions} />
          )}
          {bench.id === null ? (
            <Button disabled aria-label="More for this post">
              ⋯
            </Button>
          ) : (
            <BenchMenu bench={bench} id={bench.id} />
          )}
        </Flex>
        <SignBar id={bench.id} write={bench.write} networks={networks} versions={versions} />
        {bench.clash && <ClashBanner mine={draft} theirs={bench.clash} settle={bench.settle} />}
        {bench.problem && !bench.clash && (
          <Box
            role="alert"
            mx={{ base: "12px", md: "24px" }}
            mb="10px"
            p="8px 12px"
            borderLeft="3px solid"
            borderColor="pimenton"
            bg="wash"
          >
            {bench.problem.message}
          </Box>
        )}
        <Matrix
          {...{ draft, profiles, networks, checks }}
          isChecked={check.isOfNow && checks === check.data}
          deliveries={fresh?.deliveries ?? NO_DELIVERIES}
          problem={bench.problem}
          when={plan.when}
          setWhen={plan.setWhen}
          whenProblem={plan.problem}
          times={times.data ?? NO_TIMES}
        />
        <Foot
          checks={checks}
          columns={columns}
          chosen={chosen}
          deliveries={fresh?.deliveries ?? []}
          networks={networks}
          plan={plan}
        />
      </Box>
    </PlaceContext>
  );
}
