import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { refusal, serve, showInJob } from "../../parts/testing";
import { saved, tightenView } from "../../parts/testingJob";
import { FromPaper } from "./FromPaper";

function show(answer: (at: number) => unknown) {
  let count = 0;
  const seen = serve((a) =>
    a.method === "GET" ? { body: tightenView() } : (answer(count++) as never),
  );
  showInJob(<FromPaper view={tightenView()} />);
  fireEvent.click(screen.getByText("Enter what was ticked on paper"));
  fireEvent.click(screen.getByLabelText("Support the bike"));
  fireEvent.click(screen.getByLabelText("Start joint 1 by hand"));
  fireEvent.change(screen.getByLabelText(/^Torque joint 1/), { target: { value: "18" } });
  fireEvent.click(screen.getByRole("button", { name: "Keep 3 of 3 steps" }));
  return () => seen.filter((a) => a.method === "POST");
}

describe("paper ticked in the garage", () => {
  it("enters all of it in one go and in the plan's order", async () => {
    const posts = show(() => saved());
    await screen.findByText("3 of 3 kept.");
    expect(posts().map((p) => p.path.split("/").at(-1))).toEqual(["step", "started", "reading"]);
    expect(posts()[2]?.body).toMatchObject({ joint: "a1", text: "18", clicked: false });
  });

  it("stops at the first that is refused, and keeps what was typed", async () => {
    const posts = show((at) => (at === 1 ? refusal("joint", "start joint 2 first") : saved()));
    await screen.findByText("1 of 3 kept.");
    await waitFor(() => expect(screen.getByRole("alert").textContent).toContain("joint 2 first"));
    expect(posts()).toHaveLength(2);
    expect((screen.getByLabelText(/^Torque joint 1/) as HTMLInputElement).value).toBe("18");
  });
});
