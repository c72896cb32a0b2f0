import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { type Member, Problem, type Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { removeMember, updateMember, withdrawInvitation } from "@/data/people";
import { Button } from "@/ui/Button";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { Picker } from "@/ui/Select";
import { formatInstant } from "@/ui/times";
import { toast } from "@/ui/toasts";
import { CAPABILITY_LABELS } from "./capabilities";
import { InvitePanel } from "./InvitePanel";
import { usePeople } from "./queries";

/** Who belongs to the brand and what each may do: a matrix of people by capabilities. */
export function PeoplePage() {
  const { brand, me, may } = useBrandContext();
  const changed = useChanged(brand.slug);
  const people = usePeople(brand.slug);
  const [inviting, setInviting] = useState(false);
  if (people.error && !people.data) return <QueryFailed error={people.error} again={() => people.refetch()} />;
  if (!people.data) return <Loading />;
  const { members, invitations, roles, capabilities, gives } = people.data;
  const manages = may("manage_people");

  async function told(act: () => Promise<unknown>, words: string) {
    try {
      await act();
      toast(words);
    } catch (error) {
      toast(error instanceof Problem ? error.message : "That failed. Try again.", { wrong: true });
    }
    await changed("people");
  }
  const change = (member: Member, role: string, may: string[]) =>
    told(
      () => updateMember(brand.slug, member.user, { role, capabilities: may }),
      `What ${member.name} may do is kept.`,
    );
  const remove = (member: Member) =>
    told(
      () => removeMember(brand.slug, member.user),
      `${member.name} no longer belongs to ${brand.name}. What they wrote stays.`,
    );
  const takeBack = (id: number, email: string) =>
    told(() => withdrawInvitation(brand.slug, id), `The invitation of ${email} is taken back.`);
  return (
    <Box px={{ base: "12px", md: "24px" }} py="18px" w="100%" maxW="1320px">
      <Flex align="center" gap="16px" mb="14px" flexWrap="wrap">
        <Box as="h1" fontSize="28px" lineHeight="32px" flex="1">
          People of {brand.name}
        </Box>
        {manages && (
          <Button kind="main" onClick={() => setInviting(true)}>
            Invite
          </Button>
        )}
      </Flex>
      {!manages && (
        <Box color="faded" mb="10px">
          Only those who manage people can change this.
        </Box>
      )}
      <Box overflowX="auto" bg="card" borderWidth="1px" borderColor="rule" borderRadius="3px">
        <Box
          as="table"
          w="100%"
          minW="980px"
          css={{
            "& th, & td": { textAlign: "left", padding: "8px 10px", borderBottom: "1px solid var(--m-colors-rule)" },
            "& th": {
              fontSize: "11.5px",
              lineHeight: "14px",
              color: "var(--m-colors-faded)",
              fontWeight: 600,
              verticalAlign: "bottom",
            },
            "& tr:last-child td": { borderBottom: 0 },
            "& .can": { textAlign: "center", width: "76px" },
          }}
        >
          <thead>
            <tr>
              <th scope="col">Person</th>
              <th scope="col">Role</th>
              {capabilities.map((name) => (
                <th key={name} scope="col" className="can">
                  {CAPABILITY_LABELS[name] ?? name}
                </th>
              ))}
              <th scope="col">
                <Box as="span" srOnly>
                  Take out
                </Box>
              </th>
            </tr>
          </thead>
          <tbody>
            {members.map((member) => (
              <MemberRow
                key={member.user}
                member={member}
                self={member.user === me.id}
                gives={gives}
                roles={roles}
                capabilities={capabilities}
                change={change}
                remove={remove}
              />
            ))}
          </tbody>
        </Box>
      </Box>
      {invitations.length > 0 && (
        <Box as="section" mt="22px" maxW="760px">
          <Box as="h2" fontSize="18px" mb="6px">
            Invited
          </Box>
          {invitations.map((one) => (
            <Flex key={one.id} gap="12px" align="center" py="8px" borderTopWidth="1px" borderColor="rule">
              <Box flex="1" minW="0">
                <b>{one.email}</b> as {one.role}
                <Box color="faded" fontSize="12px">
                  By {one.invited_by}, good until {formatInstant(one.expires_at, brand.zone, me.clock24)}
                </Box>
              </Box>
              <Button
                aria-label={`Take back the invitation of ${one.email}`}
                onClick={() => void takeBack(one.id, one.email)}
              >
                Take back
              </Button>
            </Flex>
          ))}
        </Box>
      )}
      {inviting && <InvitePanel people={people.data} close={() => setInviting(false)} />}
    </Box>
  );
}

type RowProps = {
  member: Member;
  self: boolean;
  gives: string[];
  roles: Schemas["RoleOut"][];
  capabilities: string[];
  change: (member: Member, role: string, may: string[]) => Promise<void>;
  remove: (member: Member) => Promise<void>;
};

function MemberRow({ member, self, gives, roles, capabilities, change, remove }: RowProps) {
  const start = roles.find((r) => r.role === member.role)?.capabilities ?? [];
  const adjusted = start.length !== member.capabilities.length || start.some((c) => !member.capabilities.includes(c));
  return (
    <tr>
      <td>
        <b>{member.name}</b>
        <Box color="faded" fontSize="12px">
          {member.email}
        </Box>
      </td>
      <td>
        {member.changes ? (
          <Picker
            aria-label={`Role of ${member.name}`}
            value={member.role}
            w="130px"
            onChange={(e) => {
              const role = e.currentTarget.value;
              void change(member, role, roles.find((r) => r.role === role)?.capabilities ?? []);
            }}
          >
            {roles.map((r) => (
              <option key={r.role} value={r.role}>
                {r.role}
              </option>
            ))}
          </Picker>
        ) : (
          member.role
        )}
        {adjusted && (
          <Box color="faded" fontSize="11.5px" fontStyle="italic">
            adjusted
          </Box>
        )}
      </td>
      {capabilities.map((name) => {
        const can = member.capabilities.includes(name);
        return (
          <td key={name} className="can">
            {member.changes ? (
              <input
                type="checkbox"
                aria-label={`${member.name}: ${CAPABILITY_LABELS[name] ?? name}`}
                checked={can}
                disabled={!gives.includes(name)}
                title={gives.includes(name) ? undefined : "You may not do this yourself, so you can't give it."}
                style={{ width: 16, height: 16, accentColor: "var(--m-colors-anil)" }}
                onChange={() =>
                  void change(
                    member,
                    member.role,
                    can ? member.capabilities.filter((c) => c !== name) : [...member.capabilities, name],
                  )
                }
              />
            ) : (
              <span role="img" aria-label={can ? "yes" : "no"}>
                {can ? "✓" : "·"}
              </span>
            )}
          </td>
        );
      })}
      <td>
        {(member.changes || self) && (
          <Button
            kind="quiet"
            aria-label={self ? "Leave this brand" : `Take out ${member.name}`}
            onClick={() => void remove(member)}
          >
            {self ? "Leave" : "Take out"}
          </Button>
        )}
      </td>
    </tr>
  );
}
