import { lazy, Suspense } from "react";
import { Navigate, Route, Routes } from "react-router";
import { cameOverNetwork, useWho } from "./api/phones";
import { Waiting } from "./parts/States";
import { WorkList } from "./worklist/WorkList";

const JobFrame = lazy(() => import("./frame/JobFrame").then((m) => ({ default: m.JobFrame })));
const PartsPage = lazy(() => import("./parts/PartsPage").then((m) => ({ default: m.PartsPage })));
const NewJob = lazy(() => import("./worklist/NewJob").then((m) => ({ default: m.NewJob })));
const SurveyFrame = lazy(() =>
  import("./stations/survey/SurveyFrame").then((m) => ({ default: m.SurveyFrame })),
);
const BikeSheet = lazy(() =>
  import("./stations/survey/BikeSheet").then((m) => ({ default: m.BikeSheet })),
);
const NextSheet = lazy(() =>
  import("./stations/survey/NextSheet").then((m) => ({ default: m.NextSheet })),
);
const PlatesSheet = lazy(() =>
  import("./stations/survey/PlatesSheet").then((m) => ({ default: m.PlatesSheet })),
);
const SpaceSheet = lazy(() =>
  import("./stations/survey/SpaceSheet").then((m) => ({ default: m.SpaceSheet })),
);
const StripSheet = lazy(() =>
  import("./stations/survey/StripSheet").then((m) => ({ default: m.StripSheet })),
);
const UndersideSheet = lazy(() =>
  import("./stations/survey/UndersideSheet").then((m) => ({ default: m.UndersideSheet })),
);
const WeighingSheet = lazy(() =>
  import("./stations/survey/WeighingSheet").then((m) => ({ default: m.WeighingSheet })),
);
const WeighupFrame = lazy(() =>
  import("./stations/weighup/WeighupFrame").then((m) => ({ default: m.WeighupFrame })),
);
const SideBySide = lazy(() =>
  import("./stations/weighup/SideBySide").then((m) => ({ default: m.SideBySide })),
);
const StrikeSheet = lazy(() =>
  import("./stations/weighup/StrikeSheet").then((m) => ({ default: m.StrikeSheet })),
);
const CoverageSheet = lazy(() =>
  import("./stations/weighup/CoverageSheet").then((m) => ({ default: m.CoverageSheet })),
);
const WhatIfSheet = lazy(() =>
  import("./stations/weighup/WhatIfSheet").then((m) => ({ default: m.WhatIfSheet })),
);
const SchoolsSheet = lazy(() =>
  import("./stations/weighup/SchoolsSheet").then((m) => ({ default: m.SchoolsSheet })),
);
const PrioritiesSheet = lazy(() =>
  import("./stations/weighup/PrioritiesSheet").then((m) => ({ default: m.PrioritiesSheet })),
);
const NewFit = lazy(() => import("./worklist/NewFit").then((m) => ({ default: m.NewFit })));
const KitFrame = lazy(() =>
  import("./stations/kit/KitFrame").then((m) => ({ default: m.KitFrame })),
);
const Kit = lazy(() => import("./stations/kit/Kit").then((m) => ({ default: m.Kit })));
const JointsSheet = lazy(() =>
  import("./stations/kit/JointsSheet").then((m) => ({ default: m.JointsSheet })),
);
const BuySheet = lazy(() =>
  import("./stations/kit/BuySheet").then((m) => ({ default: m.BuySheet })),
);
const ToolsSheet = lazy(() =>
  import("./stations/kit/ToolsSheet").then((m) => ({ default: m.ToolsSheet })),
);
const PaperSheet = lazy(() =>
  import("./stations/kit/PaperSheet").then((m) => ({ default: m.PaperSheet })),
);
const FitupFrame = lazy(() =>
  import("./stations/fitup/FitupFrame").then((m) => ({ default: m.FitupFrame })),
);
const HolesSheet = lazy(() =>
  import("./stations/fitup/HolesSheet").then((m) => ({ default: m.HolesSheet })),
);
const OrderSheet = lazy(() =>
  import("./stations/fitup/OrderSheet").then((m) => ({ default: m.OrderSheet })),
);
const PiecesSheet = lazy(() =>
  import("./stations/fitup/PiecesSheet").then((m) => ({ default: m.PiecesSheet })),
);
const NeighboursSheet = lazy(() =>
  import("./stations/fitup/NeighboursSheet").then((m) => ({ default: m.NeighboursSheet })),
);
const ChangesSheet = lazy(() =>
  import("./stations/fitup/ChangesSheet").then((m) => ({ default: m.ChangesSheet })),
);
const Fitup = lazy(() => import("./stations/fitup/Fitup").then((m) => ({ default: m.Fitup })));
const Tighten = lazy(() =>
  import("./stations/tighten/Tighten").then((m) => ({ default: m.Tighten })),
);
const KeepFrame = lazy(() =>
  import("./stations/keep/KeepFrame").then((m) => ({ default: m.KeepFrame })),
);
const DueSheet = lazy(() =>
  import("./stations/keep/DueSheet").then((m) => ({ default: m.DueSheet })),
);
const LogSheet = lazy(() =>
  import("./stations/keep/LogSheet").then((m) => ({ default: m.LogSheet })),
);
const BlowsSheet = lazy(() =>
  import("./stations/keep/BlowsSheet").then((m) => ({ default: m.BlowsSheet })),
);
const RecheckSheet = lazy(() =>
  import("./stations/keep/RecheckSheet").then((m) => ({ default: m.RecheckSheet })),
);
const BackSheet = lazy(() =>
  import("./stations/keep/BackSheet").then((m) => ({ default: m.BackSheet })),
);

/** Keep's sheets, in its station and in garage mode. */
const keepSheets = (
  <>
    <Route index element={<DueSheet />} />
    <Route path="log" element={<LogSheet />} />
    <Route path="plate" element={<BlowsSheet />} />
    <Route path="joints" element={<RecheckSheet />} />
    <Route path="back" element={<BackSheet />} />
  </>
);
const Garage = lazy(() => import("./garage/Garage"));
const GarageKeep = lazy(() => import("./garage/GarageKeep"));
const Pair = lazy(() => import("./garage/Pair").then((m) => ({ default: m.Pair })));

function OnPhone({ job }: { job: string }) {
  return (
    <Suspense fallback={<Waiting what="the screen" />}>
      <Routes>
        <Route path="/pair" element={<Pair />} />
        <Route path="/jobs/:job/garage" element={<Garage />} />
        <Route path="/jobs/:job/garage/keep" element={<GarageKeep />}>
          {keepSheets}
        </Route>
        <Route path="*" element={<Navigate to={job ? `/jobs/${job}/garage` : "/pair"} replace />} />
      </Routes>
    </Suspense>
  );
}

/** Every address of the application; a phone that was let in has those of its job only. */
export function App() {
  const who = useWho();
  if (cameOverNetwork() && who.isPending) return <Waiting what="who you are" />;
  if (who.data?.is_phone) return <OnPhone job={who.data.job} />;
  return (
    <Suspense fallback={<Waiting what="the screen" />}>
      <Routes>
        <Route path="/" element={<WorkList />} />
        <Route path="/new" element={<NewJob />} />
        <Route path="/new/fit" element={<NewFit />} />
        <Route path="/parts" element={<PartsPage />} />
        <Route path="/jobs/:job/garage" element={<Garage />} />
        <Route path="/jobs/:job/garage/keep" element={<GarageKeep />}>
          {keepSheets}
        </Route>
        <Route path="/jobs/:job" element={<JobFrame />}>
          <Route index element={<Navigate to="survey" replace />} />
          <Route path="survey" element={<SurveyFrame />}>
            <Route index element={<BikeSheet />} />
            <Route path="underside" element={<UndersideSheet />} />
            <Route path="space" element={<SpaceSheet />} />
            <Route path="next" element={<NextSheet />} />
            <Route path="plates/:plate?" element={<PlatesSheet />} />
            <Route path="weighing" element={<WeighingSheet />} />
            <Route path="strip" element={<StripSheet />} />
          </Route>
          <Route path="weigh-up" element={<WeighupFrame />}>
            <Route index element={<SideBySide />} />
            <Route path="coverage" element={<CoverageSheet />} />
            <Route path="strike" element={<StrikeSheet />} />
            <Route path="what-if" element={<WhatIfSheet />} />
            <Route path="schools" element={<SchoolsSheet />} />
            <Route path="priorities" element={<PrioritiesSheet />} />
          </Route>
          <Route path="kit" element={<KitFrame />}>
            <Route index element={<Kit />} />
            <Route path="joints" element={<JointsSheet />} />
            <Route path="buy" element={<BuySheet />} />
            <Route path="tools" element={<ToolsSheet />} />
            <Route path="sheet" element={<PaperSheet />} />
          </Route>
          <Route path="fit-up" element={<FitupFrame />}>
            <Route path=":joint?" element={<Fitup />} />
            <Route path="holes" element={<HolesSheet />} />
            <Route path="order" element={<OrderSheet />} />
            <Route path="pieces" element={<PiecesSheet />} />
            <Route path="neighbours" element={<NeighboursSheet />} />
            <Route path="changes" element={<ChangesSheet />} />
          </Route>
          <Route path="tighten/:joint?" element={<Tighten />} />
          <Route path="keep" element={<KeepFrame />}>
            {keepSheets}
          </Route>
        </Route>
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </Suspense>
  );
}
