import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { t } from "../format/language";
import { Button } from "./Button";
import { TextField } from "./Field";
import { Notice } from "./Notice";

type Props = {
  title: string;
  says: string;
  button: string;
  pair: (code: string) => Promise<{ token: string }>;
  onPaired: (token: string) => void;
};

/** A page with one field: the code from the coach's screen. */
export function PairForm({ title, says, button, pair, onPaired }: Props) {
  const [code, setCode] = useState("");
  const pairing = useMutation({ mutationFn: () => pair(code), onSuccess: (result) => onPaired(result.token) });
  return (
    <main className="mx-auto flex min-h-screen max-w-md flex-col justify-center gap-4 px-6">
      <h1 className="text-3xl font-bold">{title}</h1>
      <p className="text-lg text-soft">{says}</p>
      <form
        className="flex items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          pairing.mutate();
        }}
      >
        <TextField
          label={t("common-code")}
          inputMode="numeric"
          autoComplete="off"
          autoFocus
          value={code}
          onChange={setCode}
          className="flex-1 text-2xl"
        />
        <Button strong type="submit" disabled={code.trim().length < 6 || pairing.isPending}>
          {button}
        </Button>
      </form>
      {pairing.isError && <Notice error={pairing.error} />}
    </main>
  );
}
