import { Box, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { type ReactNode, useState } from "react";
import type { Profile, Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { postQueries } from "@/data/posts";
import { ByHandPanel } from "@/features/profiles/ByHandPanel";
import { ConnectList } from "@/features/profiles/ConnectPanel";
import { useProfiles } from "@/features/profiles/queries";
import { TimetablePanel } from "@/features/profiles/TimetablePanel";
import { useConnectOutcome } from "@/features/profiles/useConnectOutcome";
import { Bar } from "@/ui/Bar";
import { Button } from "@/ui/Button";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { ReadStep } from "./ReadStep";

type Steps = Schemas["FirstSteps"];
const STEPS = ["sheet", "profiles", "timetable", "post"] as const;
type Step = (typeof STEPS)[number];

const NAMES: Record<Step, string> = {
  sheet: "Brand sheet",
  profiles: "Profiles",
  timetable: "Timetable",
  post: "First post",
};

/** What a new brand needs for its first post, a step at a time. Each can be skipped, and had later on its own page. */
export function FirstStepsPage() {
  const { brand } = useBrandContext();
  const found = useQuery(postQueries.firstSteps(brand.slug));
  if (found.error && !found.data) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  return <Guide steps={found.data} />;
}

function Guide({ steps }: { steps: Steps }) {
  const { brand, may } = useBrandContext();
  const search = useSearch({ from: "/$brand/first-steps" });
  const { refused } = useConnectOutcome(search.outcome);
  const navigate = useNavigate({ from: "/$brand/first-steps" });
  // A step stays open when it is done: one goes on oneself.
  const [first] = useState(STEPS.find((s) => !steps[s]) ?? "post");
  // Back from a network, one is at the profiles still, to connect the next.
  const came = search.connected || search.outcome ? "profiles" : undefined;
  const at = STEPS.find((s) => s === (search.step ?? came)) ?? first;
  const next = STEPS[STEPS.indexOf(at) + 1];
  const go = (step: Step) => navigate({ search: { step } });
  return (
    <Box px={{ base: "12px", md: "24px" }} py="18px" w="100%" maxW="1120px">
      <Box as="h1" fontSize="28px" lineHeight="32px">
        First steps of {brand.name}
      </Box>
      <Box color="faded" mb="18px">
        Everything here can be skipped and done later on its own page.
      </Box>
      <Flex direction={{ base: "column", md: "row" }} gap={{ base: "16px", md: "40px" }}>
        <Box as="nav" aria-label="Steps" w={{ md: "200px" }} flexShrink="0">
          <Box as="ol" listStyleType="none" m="0" p="0" display={{ base: "flex", md: "block" }} flexWrap="wrap">
            {STEPS.map((step, n) => (
              <Box as="li" key={step} borderTopWidth={{ md: "1px" }} borderColor="rule" py={{ md: "4px" }}>
                <Button
                  kind="quiet"
                  aria-current={step === at ? "step" : undefined}
                  color={step === at ? "ink" : "faded"}
                  justifyContent="flex-start"
                  w={{ md: "100%" }}
                  onClick={() => void go(step)}
                >
                  <Mark done={steps[step]} number={n + 1} /> {NAMES[step]}
                </Button>
              </Box>
            ))}
          </Box>
        </Box>
        <Box as="section" flex="1" minW="0" maxW="680px" aria-label={NAMES[at]}>
          {refused && at === "profiles" && (
            <Box mb="14px">
              <Bar tone="pimenton" role="alert">
                {refused}
              </Bar>
            </Box>
          )}
          {at === "sheet" && <Sheet writes={may("edit_others")} />}
          {at === "profiles" && <Connect manages={may("manage_profiles")} came={search.connected !== undefined} />}
          {at === "timetable" && <Timetables />}
          {at === "post" && <FirstPost hasProfiles={steps.profiles} />}
          <Flex gap="10px" mt="22px" pt="12px" borderTopWidth="1px" borderColor="rule">
            {next && (
              <Button kind={steps[at] ? "main" : "plain"} onClick={() => void go(next)}>
                {steps[at] ? `Next: ${NAMES[next]}` : "Skip"}
              </Button>
            )}
            <Button kind="quiet" asChild>
              <Link to="/$brand/calendar" params={{ brand: brand.slug }} search={{}}>
                To the calendar
              </Link>
            </Button>
          </Flex>
        </Box>
      </Flex>
    </Box>
  );
}

function Mark({ done, number }: { done: boolean; number: number }) {
  return (
    <Flex
      as="span"
      w="22px"
      h="22px"
      borderRadius="50%"
      borderWidth="1.5px"
      borderStyle={done ? "solid" : "dashed"}
      borderColor={done ? "epazote" : "faded"}
      color={done ? "epazote" : "faded"}
      align="center"
      justify="center"
      fontSize="11px"
      flexShrink="0"
    >
      {done ? (
        <>
          <span aria-hidden>✓</span>
          <Box as="span" srOnly>
            Done:
          </Box>
        </>
      ) : (
        number
      )}
    </Flex>
  );
}

function Title({ title, children }: { title: string; children: ReactNode }) {
  return (
    <>
      <Box as="h2" fontSize="20px" lineHeight="26px">
        {title}
      </Box>
      <Box color="faded" mb="14px">
        {children}
      </Box>
    </>
  );
}

function Sheet({ writes }: { writes: boolean }) {
  return (
    <>
      <Title title="Read the brand sheet from the brand's site">
        What the brand says of itself there, its colours and its contact are proposed; you choose what stays.
      </Title>
      {writes ? <ReadStep /> : <Box>Whoever may change others' posts writes the brand sheet.</Box>}
    </>
  );
}

function Connect({ manages, came }: { manages: boolean; came: boolean }) {
  const { brand } = useBrandContext();
  const profiles = useProfiles(brand.slug).data ?? [];
  const [hand, setHand] = useState(false);
  const there = profiles.filter((p) => p.state !== "disconnected");
  return (
    <>
      <Title title="Connect profiles">
        Where posts of {brand.name} go out. Several can be connected, one after another.
      </Title>
      {there.length > 0 && (
        <Box mb="14px">
          <Bar tone="epazote" role={came ? "status" : undefined}>
            <Box flex="1">
              {there.length === 1 ? "One profile is there: " : `${there.length} profiles are there: `}
              {there
                .slice(0, 6)
                .map((p) => p.handle || p.name)
                .join(", ")}
              {there.length > 6 && ", …"}
            </Box>
          </Bar>
        </Box>
      )}
      {manages ? (
        <>
          <ConnectList returnTo="first-steps" />
          <Flex gap="12px" align="center" py="12px">
            <Box flex="1" minW="0">
              <b>By hand</b>
              <Box color="faded" fontSize="12px">
                Any other place: at its time you are told, with the text and media to publish there yourself.
              </Box>
            </Box>
            <Button onClick={() => setHand(true)}>Add by hand</Button>
          </Flex>
        </>
      ) : (
        <Box>Whoever may manage profiles connects them.</Box>
      )}
      {hand && <ByHandPanel close={() => setHand(false)} />}
    </>
  );
}

function Timetables() {
  const { brand } = useBrandContext();
  const profiles = (useProfiles(brand.slug).data ?? []).filter((p) => p.state !== "disconnected");
  const [open, setOpen] = useState<Profile | null>(null);
  const chosen = profiles.find((p) => p.id === open?.id);
  return (
    <>
      <Title title="Timetable">
        The weekly slots that a post is planned into when you ask for the next free one. A connected profile begins with
        a first proposal.
      </Title>
      {profiles.length === 0 && <Box>Connect a profile first; its timetable comes with it.</Box>}
      {profiles.map((profile) => (
        <Flex key={profile.id} gap="12px" align="center" py="8px" borderTopWidth="1px" borderColor="rule">
          <Box flex="1" minW="0">
            <b>{profile.handle || profile.name}</b>
            <Box color="faded" fontSize="12px">
              {profile.slot_count === 0
                ? "no slots yet"
                : `${profile.slot_count} ${profile.slot_count === 1 ? "slot" : "slots"} a week`}
            </Box>
          </Box>
          <Button aria-label={`Timetable of ${profile.handle || profile.name}`} onClick={() => setOpen(profile)}>
            Timetable
          </Button>
        </Flex>
      ))}
      {chosen && <TimetablePanel profile={chosen} close={() => setOpen(null)} />}
    </>
  );
}

function FirstPost({ hasProfiles }: { hasProfiles: boolean }) {
  const { brand, may } = useBrandContext();
  return (
    <>
      <Title title="First post">
        On the Bench you write it once, see it as each profile will show it, and plan it.
        {!hasProfiles && " Without a profile it stays a draft."}
      </Title>
      {may("write") && (
        <Button kind="main" asChild>
          <Link to="/$brand/bench/$post" params={{ brand: brand.slug, post: "new" }} search={{}}>
            Write the first post
          </Link>
        </Button>
      )}
    </>
  );
}
