import { Box } from "@chakra-ui/react";
import { Link, useParams } from "@tanstack/react-router";
import { useState } from "react";
import { confirmAddress } from "@/data/account";
import { useReadAll } from "@/data/changes";
import { Button } from "@/ui/Button";
import { useForm } from "@/ui/useForm";
import { DoorPage } from "./DoorPage";

/** Where the mailed link of a new address leads. It is confirmed by a button: programs that look through mail open links. */
export function ConfirmPage() {
  const { key } = useParams({ from: "/confirm-email/$key" });
  const readAll = useReadAll();
  const form = useForm();
  const [done, setDone] = useState(false);
  async function confirm() {
    const fine = await form.send(() => confirmAddress(key));
    setDone(fine);
    if (fine) await readAll();
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
