import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { asProblem, client, take } from "../../api/client";
import { Mark } from "../../parts/Shell";
import { TextField } from "../../ui/Ask";
import { Button, ProblemNote } from "../../ui/basics";
import { text } from "./strings";

const t = text.SignIn;

export function SignIn() {
  const cache = useQueryClient();
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const enter = useMutation({
    mutationFn: () => take(client.POST("/api/session", { body: { name, password } })),
    onSuccess: (session) => cache.setQueryData(["session"], session),
  });
  return (
    <main className="grid h-full place-items-center">
      <form
        className="w-80 space-y-3 rounded-lg border border-line bg-card p-5"
        onSubmit={(event) => {
          event.preventDefault();
          enter.mutate();
        }}
      >
        <h1 className="flex items-center gap-2 text-[17px] font-semibold">
          <Mark />
          {t.neatVeil}
        </h1>
        <p className="text-soft">{t.passesGraphicsAndPlatesLayered}</p>
        <TextField label={t.name} value={name} onChange={setName} autoFocus autoComplete="username" />
        <TextField
          label={t.password}
          type="password"
          value={password}
          onChange={setPassword}
          autoComplete="current-password"
        />
        {enter.error && <ProblemNote problem={asProblem(enter.error)} />}
        <Button kind="main" type="submit" disabled={enter.isPending || !name || !password} className="w-full">
          {enter.isPending ? t.signingIn : t.signIn}
        </Button>
      </form>
    </main>
  );
}
