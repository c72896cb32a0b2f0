import { Box, Flex, Menu, Portal } from "@chakra-ui/react";
import type { Network, Profile } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { Button } from "@/ui/Button";
import { MenuList, MenuRow } from "@/ui/MenuParts";
import { NetworkTile } from "@/ui/NetworkTile";
import { formatInstant, formatZone } from "@/ui/times";
import type { Group } from "./groups";
import type { Open } from "./ProfilesPage";
import { StateCell } from "./StateCell";
import { useProfileActions } from "./useProfileActions";

type Props = { groups: Group[]; networks: Map<string, Network>; act: (open: Open) => void };

/** Every profile in one table, under its network, its set, or what is disconnected. */
export function ProfileTable({ groups, networks, act }: Props) {
  return (
    <Box overflowX="auto" bg="card" borderWidth="1px" borderColor="rule" borderRadius="3px">
      <Box
        as="table"
        w="100%"
        minW="980px"
        css={{
          tableLayout: "fixed",
          "& th, & td": {
            textAlign: "left",
            padding: "7px 10px",
            borderBottom: "1px solid var(--m-colors-rule)",
            verticalAlign: "top",
          },
          "& thead th": {
            fontSize: "11.5px",
            color: "var(--m-colors-faded)",
            fontWeight: 600,
            paddingBlock: "5px",
          },
          "& tbody th": { background: "var(--m-colors-wash)", paddingBlock: "5px" },
          "& tbody:last-child tr:last-child td": { borderBottom: 0 },
        }}
      >
        <colgroup>
          <col />
          <col style={{ width: "84px" }} />
          <col style={{ width: "340px" }} />
          <col style={{ width: "68px" }} />
          <col style={{ width: "68px" }} />
          <col style={{ width: "140px" }} />
          <col style={{ width: "80px" }} />
          <col style={{ width: "52px" }} />
        </colgroup>
        <thead>
          <tr>
            <th scope="col">Profile</th>
            <th scope="col">Followers</th>
            <th scope="col">State</th>
            <th scope="col">Planned</th>
            <th scope="col">Trouble</th>
            <th scope="col">Last published</th>
            <th scope="col">Timetable</th>
            <th scope="col">
              <Box as="span" srOnly>
                More
              </Box>
            </th>
          </tr>
        </thead>
        {groups.map(({ title, network, profiles }) => (
          <tbody key={title}>
            <tr>
              <th scope="rowgroup" colSpan={8}>
                <Flex align="center" gap="8px">
                  {network && <NetworkTile letters={network.letters} shape={network.shape} size={22} />}
                  <Box as="h2" fontSize="16px" lineHeight="20px">
                    {title}
                  </Box>
                  <Box color="faded" fontSize="12px" fontWeight="400">
                    {profiles.length}
                  </Box>
                </Flex>
              </th>
            </tr>
            {profiles.map((profile) => (
              <Row
                key={profile.id}
                profile={profile}
                network={networks.get(profile.network)}
                alone={!network}
                act={act}
              />
            ))}
          </tbody>
        ))}
      </Box>
    </Box>
  );
}

type RowProps = { profile: Profile; network: Network | undefined; alone: boolean; act: (open: Open) => void };

function Row({ profile, network, alone, act }: RowProps) {
  const { brand, me } = useBrandContext();
  const kind = network?.kinds.find((k) => k.kind === profile.kind)?.name ?? profile.kind;
  return (
    <tr>
      <td>
        <Flex gap="10px" align="flex-start">
          {alone && network && <NetworkTile letters={network.letters} shape={network.shape} size={24} />}
          <Box minW="0">
            <Box fontWeight="600" overflowWrap="anywhere">
              {profile.display_name || profile.handle}
            </Box>
            <Box color="faded" fontSize="12px" lineHeight="16px" overflowWrap="anywhere">
              {[
                profile.display_name ? profile.handle : profile.name,
                kind,
                profile.zone_own ? formatZone(profile.zone) : "",
              ]
                .filter((part, n, parts) => part && parts.indexOf(part) === n && part !== profile.handle)
                .join(" · ")}
            </Box>
          </Box>
        </Flex>
      </td>
      <td style={{ fontVariantNumeric: "tabular-nums" }}>{profile.followers?.toLocaleString("en") ?? ""}</td>
      <td>
        <StateCell profile={profile} network={network} act={act} />
      </td>
      <td>{profile.planned}</td>
      <td>
        {profile.trouble > 0 ? (
          <Box color="pimenton" fontWeight="600">
            {profile.trouble}
          </Box>
        ) : (
          "none"
        )}
      </td>
      <td>{profile.last_published ? formatInstant(profile.last_published, brand.zone, me.clock24) : "not yet"}</td>
      <td>
        <Button
          kind="link"
          aria-label={`Timetable of ${profile.handle}: ${profile.slot_count} slots a week`}
          onClick={() => act({ what: "timetable", profile })}
        >
          {profile.slot_count} slots
        </Button>
      </td>
      <td>
        <More profile={profile} network={network} act={act} />
      </td>
    </tr>
  );
}

function More({
  profile,
  network,
  act,
}: {
  profile: Profile;
  network: Network | undefined;
  act: (open: Open) => void;
}) {
  const { may } = useBrandContext();
  const actions = useProfileActions();
  const manages = may("manage_profiles");
  if (!manages && !may("publish")) return null;
  const gone = profile.state === "disconnected";
  const direct = network?.kinds.find((kind) => kind.kind === profile.kind)?.direct ?? true;
  const byWire = profile.state !== "by_hand" && direct && network?.connects;
  return (
    <Menu.Root lazyMount unmountOnExit positioning={{ placement: "bottom-end" }}>
      <Menu.Trigger asChild>
        <Button kind="quiet" aria-label={`More for ${profile.handle}`}>
          ⋯
        </Button>
      </Menu.Trigger>
      <Portal>
        <Menu.Positioner>
          <MenuList>
            {manages && !gone && (
              <MenuRow value="describe" onClick={() => act({ what: "describe", profile })}>
                Name, zone and who is in charge
              </MenuRow>
            )}
            {may("publish") && !gone && !profile.paused && (
              <MenuRow value="pause" onClick={() => act({ what: "pause", profile })}>
                Pause
              </MenuRow>
            )}
            {may("publish") && profile.paused && (
              <MenuRow value="resume" onClick={() => void actions.resume(profile)}>
                Resume
              </MenuRow>
            )}
            {manages && byWire && (
              <MenuRow value="again" onClick={() => void actions.goAgain(profile)}>
                {gone || profile.state === "must_be_reconnected" ? "Reconnect" : "Add or drop profiles"} at{" "}
                {network?.name}
              </MenuRow>
            )}
            {manages && byWire && !gone && (
              <MenuRow value="check" onClick={() => void actions.check(profile)}>
                Check again
              </MenuRow>
            )}
            {manages && !gone && (
              <MenuRow value="disconnect" onClick={() => act({ what: "disconnect", profile })}>
                {profile.state === "by_hand" ? "Take out" : "Disconnect"}
              </MenuRow>
            )}
          </MenuList>
        </Menu.Positioner>
      </Portal>
    </Menu.Root>
  );
}
