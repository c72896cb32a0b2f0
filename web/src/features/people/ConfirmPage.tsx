import { Box } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { Link, useParams } from "@tanstack/react-router";
import { useState } from "react";
import { Button } from "@/ui/Button";
import { useForm } from "@/ui/useForm";
import { auth, wrong } from "./auth";
import { DoorPage } from "./DoorPage";

const ENDED = "This link has ended or was used. Ask for a new one at your account.";

/** Where the mailed link of a new address leads. It is confirmed by a button: programs that look through mail open links. */
export function ConfirmPage() {
  const { key } = useParams({ from: "/confirm-email/$key" });
  const queries = useQueryClient();
  const form = useForm();
  const [done, setDone] = useState(false);
  async function confirm() {
    const fine = await form.send(async () => {
      const answer = await auth("POST", "auth/email/verify", { key });
      // 401: the address is confirmed, and one signs in with it.
      if (answer.status === 200 || answer.status === 401) return;
      throw wrong({ ...answer, body: {} }, ENDED);
    });
    setDone(fine);
    if (fine) await queries.invalidateQueries();
  }
  return (
    <DoorPage title="A new e-mail address">
      {done ? (
        <Box role="status">The address is confirmed. Sign in with it from now on.</Box>
      ) : (
        <>
          <Button kind="main" onClick={() => void confirm()} disabled={form.busy}>
            Confirm the address
          </Button>
          {form.problem && (
            <Box role="alert" color="pimenton" mt="12px">
              {form.problem.message}
            </Box>
          )}
        </>
      )}
      <Box mt="18px" fontSize="13px">
        <Link to="/" search={{}} style={{ textDecoration: "underline" }}>
          To Menudo
        </Link>
      </Box>
    </DoorPage>
  );
}
