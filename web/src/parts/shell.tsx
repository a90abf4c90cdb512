import { Link, Outlet, useLocation } from "@tanstack/react-router";
import { CircleHelp, Gauge, Ruler, Table2, TabletSmartphone } from "lucide-react";
import { Tooltip } from "radix-ui";
import { CommandPalette } from "./command-palette";
import { Jobs } from "./jobs";
import { Keys } from "./keys";
import { Notices } from "./notices";

const PLACES = [
  { to: "/", label: "Wall", icon: Gauge, exact: true },
  { to: "/data", label: "Data", icon: Table2, exact: false },
  { to: "/ask", label: "Ask", icon: CircleHelp, exact: false },
  { to: "/floor", label: "Floor", icon: TabletSmartphone, exact: false },
  { to: "/gauges", label: "Gauges", icon: Ruler, exact: false },
] as const;

/** The frame of every page: the rail on the left, the page beside it. */
export function Shell() {
  const { pathname } = useLocation();
  // A study is an answer to what was asked.
  const inStudy = pathname.startsWith("/study/");
  // A page to print is the page alone, and so are a station and the Wall where it hangs.
  if (pathname.endsWith("/print") || pathname.startsWith("/station/") || pathname === "/wall")
    return (
      <Tooltip.Provider>
        <Outlet />
      </Tooltip.Provider>
    );
  return (
    <Tooltip.Provider delayDuration={300}>
      <div className="flex h-full">
        <nav aria-label="Places" className="flex w-16 shrink-0 flex-col items-center gap-1 bg-bark py-2 text-[#dfe6df]">
          <img src="/acorn.svg" alt="Acorn Dial" className="mb-3 mt-1 h-9 w-9" />
          {PLACES.map(({ to, label, icon: Icon, exact }) => (
            <Link
              key={to}
              to={to}
              activeOptions={{ exact }}
              data-here={(inStudy && to === "/ask") || (pathname === "/plan" && to === "/gauges")}
              className="flex h-[52px] w-14 flex-col items-center justify-center gap-0.5 rounded-lg border-l-[3px] border-transparent text-[12px] hover:bg-white/10 aria-[current=page]:border-[#dba63c] aria-[current=page]:bg-white/10 data-[here=true]:border-[#dba63c] data-[here=true]:bg-white/10"
            >
              <Icon size={20} strokeWidth={1.8} aria-hidden />
              {label}
            </Link>
          ))}
          <Jobs />
        </nav>
        <div className="flex min-w-0 flex-1 flex-col">
          <Outlet />
        </div>
        <CommandPalette />
        <Keys />
        <Notices />
      </div>
    </Tooltip.Provider>
  );
}
