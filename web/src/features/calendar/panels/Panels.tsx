import { Menu, Portal } from "@chakra-ui/react";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { memo } from "react";
import type { CalendarWindow } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useNetworks, useProfiles } from "@/features/profiles/queries";
import { Button } from "@/ui/Button";
import { MenuList, MenuRow } from "@/ui/MenuParts";
import { SidePanel } from "@/ui/SidePanel";
import { filtersOf } from "../filters";
import { AddressesPanel } from "./AddressesPanel";
import { AdvicePanel } from "./AdvicePanel";
import { AlmanacPanel } from "./AlmanacPanel";
import { CampaignsPanel } from "./CampaignsPanel";
import { LabelsPanel } from "./LabelsPanel";
import { PlanPanel } from "./PlanPanel";

const TITLES = {
  advice: "Spacing",
  labels: "Labels",
  campaigns: "Campaigns",
  almanac: "Almanac",
  addresses: "Calendar addresses",
  plan: "Bring a plan in",
} as const;
type Panel = keyof typeof TITLES;

/** The calendar's other tools, and the ways out of it. */
export const MoreMenu = memo(function MoreMenu({ first, days }: { first: string; days: number }) {
  const { brand, may } = useBrandContext();
  const search = useSearch({ from: "/$brand/calendar" });
  const navigate = useNavigate({ from: "/$brand/calendar" });
  const show = (panel: Panel) => navigate({ search: (s) => ({ ...s, panel }) });
  const query = new URLSearchParams({
    first,
    days: String(Math.min(days, 62)),
    ...(filtersOf(search) as Record<string, string>),
  });
  return (
    <>
      <Button minH="30px" onClick={() => show("advice")}>
        Spacing
      </Button>
      <Menu.Root positioning={{ placement: "bottom-end" }} lazyMount unmountOnExit>
        <Menu.Trigger asChild>
          <Button minH="30px">More ▾</Button>
        </Menu.Trigger>
        <Portal>
          <Menu.Positioner>
            <MenuList>
              <MenuRow value="all" onClick={() => navigate({ to: "/all", search: { from: first } })}>
                All brands
              </MenuRow>
              <MenuRow value="labels" onClick={() => show("labels")}>
                Labels
              </MenuRow>
              <MenuRow value="campaigns" onClick={() => show("campaigns")}>
                Campaigns
              </MenuRow>
              <MenuRow value="almanac" onClick={() => show("almanac")}>
                Almanac
              </MenuRow>
              {may("write") && (
                <MenuRow value="plan" onClick={() => show("plan")}>
                  Bring a plan in (CSV)
                </MenuRow>
              )}
              <MenuRow value="csv" asChild>
                <a href={`/api/brands/${brand.slug}/plan.csv?${query}`}>Take these days out (CSV)</a>
              </MenuRow>
              <MenuRow
                value="print"
                onClick={() =>
                  navigate({
                    to: "/$brand/plan",
                    params: { brand: brand.slug },
                    search: { ...filtersOf(search), from: first, days },
                  })
                }
              >
                Plan to print
              </MenuRow>
              <MenuRow value="addresses" onClick={() => show("addresses")}>
                Calendar addresses
              </MenuRow>
              <GridRows />
            </MenuList>
          </Menu.Positioner>
        </Portal>
      </Menu.Root>
    </>
  );
});

/** The profiles whose page can be seen as it will be; looked for when the menu opens. */
function GridRows() {
  const { brand } = useBrandContext();
  const navigate = useNavigate();
  const networks = useNetworks();
  const profiles = useProfiles(brand.slug).data ?? [];
  const photo = profiles.filter((p) => networks.get(p.network)?.has_grid).slice(0, 12);
  return photo.map((lane) => (
    <MenuRow
      key={lane.id}
      value={`grid${lane.id}`}
      onClick={() => navigate({ to: "/$brand/grid/$profile", params: { brand: brand.slug, profile: String(lane.id) } })}
    >
      Grid proof of {lane.display_name || lane.handle}
    </MenuRow>
  ));
}

/** The panel that the address names. */
export function Panels({ window, first, days }: { window: CalendarWindow; first: string | undefined; days: number }) {
  const search = useSearch({ from: "/$brand/calendar" });
  const navigate = useNavigate({ from: "/$brand/calendar" });
  const { panel } = search;
  if (!panel) return null;
  const close = () => navigate({ search: (s) => ({ ...s, panel: undefined }) });
  return (
    <SidePanel title={TITLES[panel]} open close={close} wide={panel === "plan"}>
      {panel === "advice" && <AdvicePanel window={window} first={first} days={days} narrow={filtersOf(search)} />}
      {panel === "labels" && <LabelsPanel />}
      {panel === "campaigns" && <CampaignsPanel />}
      {panel === "almanac" && <AlmanacPanel />}
      {panel === "addresses" && <AddressesPanel />}
      {panel === "plan" && <PlanPanel close={close} />}
    </SidePanel>
  );
}
