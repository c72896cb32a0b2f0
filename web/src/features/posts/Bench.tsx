import { Box, chakra, Flex } from "@chakra-ui/react";
import { useNavigate } from "@tanstack/react-router";
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from "react";
import type { Asset, Post, Profile } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { useNetworks, useSets } from "@/features/profiles/queries";
import { StateShape, stateWords } from "@/ui/StateShape";
import { ClashBanner } from "./ClashBanner";
import type { Draft } from "./draft";
import { Foot } from "./Foot";
import { Matrix } from "./Matrix";
import { ProfilePicker } from "./ProfilePicker";
import { useCheck, usePost } from "./queries";
import { type Kept, useBench } from "./useBench";
import { usePlan } from "./usePlan";

type Props = {
  profiles: Profile[];
  loaded: Post | null;
  first: Draft;
  date: string | undefined;
  onMade: (id: number) => void;
};

const KEPT: Record<Kept, string> = {
  kept: "kept",
  changed: "not kept yet",
  keeping: "being kept",
  failed: "could not be kept",
};

/** The Bench: a matrix of fields by master and networks, and planning at its foot. */
export function Bench({ profiles, loaded, first, date, onMade }: Props) {
  const { brand } = useHere();
  const networks = useNetworks();
  const sets = useSets(brand.slug).data ?? [];
  const navigate = useNavigate();
  const bench = useBench(brand.slug, loaded, first, onMade);
  const { draft, change, adopt } = bench;
  const page = useRef<HTMLDivElement>(null);
  const fresh = usePost(brand.slug, bench.id).data;
  const [uploaded, setUploaded] = useState<Asset[]>([]);
  useEffect(() => {
    if (fresh) adopt(fresh);
  }, [fresh, adopt]);

  const assets = useMemo(
    () => new Map([...(fresh?.assets ?? loaded?.assets ?? []), ...uploaded].map((asset) => [asset.id, asset])),
    [fresh, loaded, uploaded],
  );
  const chosen = useMemo(() => profiles.filter((p) => draft.profiles.includes(p.id)), [profiles, draft.profiles]);
  const columns = useMemo(() => [...new Set(chosen.map((p) => p.network))], [chosen]);
  const check = useCheck(brand.slug, draft, columns, assets);
  const plan = usePlan(bench, date, (deliveryDate, delivery) =>
    navigate({ to: "/$brand/calendar", params: { brand: brand.slug }, search: { show: delivery, from: deliveryDate } }),
  );

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
        <Box color={bench.kept === "failed" ? "pimenton" : "faded"} role="status" data-testid="kept">
          {stateWords(state).replaceAll("_", " ")} ·{" "}
          {bench.id === null && bench.kept === "kept" ? "nothing to keep yet" : KEPT[bench.kept]}
        </Box>
        <Box flex="1" />
        <ProfilePicker
          profiles={profiles}
          sets={sets}
          networks={networks}
          chosen={draft.profiles}
          choose={(ids) => change((d) => ({ ...d, profiles: ids }))}
        />
      </Flex>
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
        {...{ draft, change, assets, columns, chosen, networks }}
        checks={new Map((check.data ?? []).map((column) => [column.network, column]))}
        deliveries={fresh?.deliveries ?? []}
        problem={bench.problem}
        when={plan.when}
        setWhen={plan.setWhen}
        whenProblem={plan.problem}
        added={(asset) => setUploaded((all) => [...all.filter((a) => a.id !== asset.id), asset])}
      />
      <Foot
        checks={check.data ?? []}
        chosen={chosen}
        deliveries={fresh?.deliveries ?? []}
        networks={networks}
        plan={plan}
      />
    </Box>
  );
}
