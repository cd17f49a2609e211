import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { asProblem, client, take } from "../../api/client";
import { Mark } from "../../parts/Shell";
import { TextField } from "../../ui/Ask";
import { Button, ProblemNote } from "../../ui/basics";

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
          <Mark /> Neat Veil
        </h1>
        <p className="text-soft">Passes, graphics and plates, layered without a trace.</p>
        <TextField label="Name" value={name} onChange={setName} autoFocus autoComplete="username" />
        <TextField
          label="Password"
          type="password"
          value={password}
          onChange={setPassword}
          autoComplete="current-password"
        />
        {enter.error && <ProblemNote problem={asProblem(enter.error)} />}
        <Button kind="main" type="submit" disabled={enter.isPending || !name || !password} className="w-full">
          {enter.isPending ? "Signing in …" : "Sign in"}
        </Button>
      </form>
    </main>
  );
}
