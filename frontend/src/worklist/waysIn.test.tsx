import { act, fireEvent, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { refusal, serve, showInJob } from "../parts/testing";
import { DRAWING } from "../parts/testingJob";
import { NewFit } from "./NewFit";
import { NewJob } from "./NewJob";
import { WorkList } from "./WorkList";

const LAYOUTS = {
  names: ["single"],
  materials: ["aluminium 5083"],
  pictures: [{ key: "single", words: "Single in a cradle frame", picture: DRAWING }],
};

/** Whether one stands before the other in the page. */
const standsAbove = (one: Element, other: Element) =>
  Boolean(one.compareDocumentPosition(other) & Node.DOCUMENT_POSITION_FOLLOWING);

describe("what comes in late stands below what is pressed", () => {
  it("keeps the ways in above the list, while it is fetched, failed or empty", async () => {
    let answer: ReturnType<typeof refusal> | { body: unknown } = refusal(
      "data",
      "the disk is full",
    );
    serve(() => answer);
    showInJob(<WorkList />);
    const way = screen.getByRole("link", { name: /I have a plate to fit/ });
    expect(standsAbove(way, screen.getByRole("status"))).toBe(true);
    expect(standsAbove(way, await screen.findByRole("alert"))).toBe(true);
    answer = { body: { jobs: [] } };
    fireEvent.click(screen.getByRole("button", { name: "Try again" }));
    expect(standsAbove(way, await screen.findByText(/No job yet/))).toBe(true);
  });

  it.each([
    ["a new bike", <NewJob key="job" />, "Build this bike"],
    ["a plate to fit", <NewFit key="fit" />, "Lay the kit out"],
  ])(
    "shows the form of %s once all of it is there, and keeps what is typed",
    async (_, page, send) => {
      let fails = true;
      serve(({ path }) => {
        if (path === "/api/shelf") return { body: { items: [] } };
        return fails ? refusal("data", "the disk is full") : { body: LAYOUTS };
      });
      const queries = showInJob(page);
      expect((await screen.findByRole("alert")).textContent).toContain("disk is full");
      expect(screen.queryByRole("button", { name: send })).toBeNull();
      fails = false;
      fireEvent.click(screen.getByRole("button", { name: "Try again" }));
      expect(await screen.findByRole("button", { name: send })).toBeTruthy();
      expect(screen.getByRole("radio", { name: /Single in a cradle frame/ })).toBeTruthy();
      const name = screen.getByLabelText("what you call the bike");
      fireEvent.change(name, { target: { value: "Green single" } });
      fails = true;
      await act(async () => {
        await queries.refetchQueries({ queryKey: ["layouts"] });
        await new Promise((told) => setTimeout(told));
      });
      expect(queries.getQueryState(["layouts"])?.status).toBe("error");
      expect((screen.getByLabelText("what you call the bike") as HTMLInputElement).value).toBe(
        "Green single",
      );
    },
  );
});
