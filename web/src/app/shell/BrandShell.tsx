import { Box } from "@chakra-ui/react";
import { Outlet, useMatchRoute, useNavigate, useParams } from "@tanstack/react-router";
import { useEffect, useMemo, useState } from "react";
import type { Brand, Me } from "@/api/client";
import { BrandContext } from "@/app/brandContext";
import { rememberBrand } from "@/app/Home";
import { useLive } from "@/app/live/useLive";
import { useShortcuts } from "@/app/shortcuts";
import { useMe } from "@/features/people/queries";
import { SignedIn } from "@/features/people/SignedIn";
import { NotFound } from "@/ui/NotFound";
import { Toasts } from "@/ui/Toasts";
import { undoNewest } from "@/ui/toasts";
import { DayStrip } from "./DayStrip";
import { KeysHelp } from "./KeysHelp";
import { Masthead } from "./Masthead";
import { ObstacleBars } from "./ObstacleBars";

export function BrandShell() {
  return (
    <SignedIn>
      <InBrand />
      <Toasts />
    </SignedIn>
  );
}

function InBrand() {
  const { brand: slug } = useParams({ from: "/$brand" });
  const me = useMe();
  const brand = me.data?.brands.find((b) => b.slug === slug);
  useEffect(() => {
    if (brand) rememberBrand(brand.slug);
  }, [brand]);
  if (!me.data || !brand) return <NotFound />;
  const person = me.data;
  return <Frame key={slug} me={person} brand={brand} />;
}

function Frame({ me, brand }: { me: Me; brand: Brand }) {
  const navigate = useNavigate();
  const matches = useMatchRoute();
  const onBench = Boolean(matches({ to: "/$brand/bench/$post" }));
  const byHand = Boolean(matches({ to: "/$brand/by-hand/$delivery" }));
  const signing = Boolean(matches({ to: "/$brand/sign" }));
  const [help, setHelp] = useState(false);
  const here = useMemo(() => ({ brand, me, may: (c: string) => brand.capabilities.includes(c) }), [brand, me]);
  useLive(brand.slug);
  const keys = useMemo(
    () => ({
      n: () =>
        here.may("write") &&
        navigate({ to: "/$brand/bench/$post", params: { brand: brand.slug, post: "new" }, search: {} }),
      "1": () => navigate({ to: "/$brand/today", params: { brand: brand.slug } }),
      "2": () => navigate({ to: "/$brand/calendar", params: { brand: brand.slug }, search: {} }),
      "3": () => navigate({ to: "/$brand/rotas", params: { brand: brand.slug } }),
      "4": () => navigate({ to: "/$brand/relays", params: { brand: brand.slug }, search: {} }),
      "7": () => navigate({ to: "/$brand/library", params: { brand: brand.slug }, search: {} }),
      z: () => undoNewest(),
      "?": () => setHelp(true),
    }),
    [brand.slug, here, navigate],
  );
  useShortcuts(keys);
  return (
    <BrandContext.Provider value={here}>
      <Box minH="100vh" display="flex" flexDirection="column">
        <Masthead onKeys={() => setHelp(true)} plain={byHand || signing} />
        {!onBench && !byHand && <DayStrip />}
        <ObstacleBars />
        <Box as="main" flex="1" display="flex" flexDirection="column" minH="0">
          <Outlet />
        </Box>
      </Box>
      <KeysHelp open={help} close={() => setHelp(false)} />
    </BrandContext.Provider>
  );
}
