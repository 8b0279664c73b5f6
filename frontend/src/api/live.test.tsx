import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, render, screen } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { useLive } from "./live";

class Stream extends EventTarget {
  static readonly CLOSED = 2;
  static all: Stream[] = [];
  readyState = 1;
  constructor(readonly url: string) {
    super();
    Stream.all.push(this);
  }
  close() {
    this.readyState = Stream.CLOSED;
  }
}

const open = () => Stream.all.filter((s) => s.readyState !== Stream.CLOSED).length;

function seen(state: "visible" | "hidden") {
  vi.spyOn(document, "visibilityState", "get").mockReturnValue(state);
  act(() => void document.dispatchEvent(new Event("visibilitychange")));
}

function Shown() {
  return <p>{useLive("choosing")}</p>;
}

describe("hearing of changes", () => {
  beforeEach(() => {
    Stream.all = [];
    vi.stubGlobal("EventSource", Stream);
  });
  const show = () => {
    const queries = new QueryClient();
    const asked = vi.spyOn(queries, "invalidateQueries");
    queries.setQueryData(["frame", "choosing"], { version: 3 });
    const page = render(
      <QueryClientProvider client={queries}>
        <Shown />
      </QueryClientProvider>,
    );
    return { asked, page };
  };
  const tell = (version: number) =>
    act(
      () =>
        void Stream.all.at(-1)?.dispatchEvent(new MessageEvent("version", { data: `${version}` })),
    );

  it("holds a stream while the page is seen, and none while it is not", () => {
    const { page } = show();
    expect(open()).toBe(1);
    seen("hidden");
    expect(open()).toBe(0);
    seen("visible");
    expect(open()).toBe(1);
    act(() => void window.dispatchEvent(new Event("pagehide")));
    expect(open()).toBe(0);
    act(() => void window.dispatchEvent(new Event("pageshow")));
    expect(open()).toBe(1);
    page.unmount();
    expect(open()).toBe(0);
    seen("visible");
    expect(open()).toBe(0);
  });

  it("has the screen fetched anew where something changed while nobody looked", () => {
    const { asked } = show();
    tell(3);
    expect(screen.getByText("linked")).toBeTruthy();
    expect(asked).not.toHaveBeenCalled();
    seen("hidden");
    seen("visible");
    tell(4);
    expect(asked).toHaveBeenCalledWith({ queryKey: ["job", "choosing"] });
  });
});
