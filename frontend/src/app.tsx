import { lazy, Suspense } from "react";
import { Navigate, Route, Routes } from "react-router";
import { JobFrame } from "./frame/JobFrame";
import { Waiting } from "./parts/States";
import { Fitup } from "./stations/fitup/Fitup";
import { Keep } from "./stations/Keep";
import { Kit } from "./stations/kit/Kit";
import { BikeSheet } from "./stations/survey/BikeSheet";
import { SurveyFrame } from "./stations/survey/SurveyFrame";
import { Tighten } from "./stations/Tighten";
import { WorkList } from "./stations/WorkList";
import { SideBySide } from "./stations/weighup/SideBySide";
import { WeighupFrame } from "./stations/weighup/WeighupFrame";

const PartsPage = lazy(() =>
  import("./parts/PartsPage").then((module) => ({ default: module.PartsPage })),
);
const NewJob = lazy(() =>
  import("./stations/NewJob").then((module) => ({ default: module.NewJob })),
);
const NextSheet = lazy(() =>
  import("./stations/survey/NextSheet").then((module) => ({ default: module.NextSheet })),
);
const PlatesSheet = lazy(() =>
  import("./stations/survey/PlatesSheet").then((module) => ({ default: module.PlatesSheet })),
);
const StripSheet = lazy(() =>
  import("./stations/survey/StripSheet").then((module) => ({ default: module.StripSheet })),
);
const UndersideSheet = lazy(() =>
  import("./stations/survey/UndersideSheet").then((module) => ({ default: module.UndersideSheet })),
);
const WeighingSheet = lazy(() =>
  import("./stations/survey/WeighingSheet").then((module) => ({ default: module.WeighingSheet })),
);
const StrikeSheet = lazy(() =>
  import("./stations/weighup/StrikeSheet").then((module) => ({ default: module.StrikeSheet })),
);
const CoverageSheet = lazy(() =>
  import("./stations/weighup/CoverageSheet").then((module) => ({ default: module.CoverageSheet })),
);
const WhatIfSheet = lazy(() =>
  import("./stations/weighup/WhatIfSheet").then((module) => ({ default: module.WhatIfSheet })),
);
const SchoolsSheet = lazy(() =>
  import("./stations/weighup/SchoolsSheet").then((module) => ({ default: module.SchoolsSheet })),
);
const PrioritiesSheet = lazy(() =>
  import("./stations/weighup/PrioritiesSheet").then((module) => ({
    default: module.PrioritiesSheet,
  })),
);
const Garage = lazy(() => import("./garage/Garage"));

/** Every address of the application. */
export function App() {
  return (
    <Suspense fallback={<Waiting what="the screen" />}>
      <Routes>
        <Route path="/" element={<WorkList />} />
        <Route path="/new" element={<NewJob />} />
        <Route path="/parts" element={<PartsPage />} />
        <Route path="/jobs/:job/garage" element={<Garage />} />
        <Route path="/jobs/:job" element={<JobFrame />}>
          <Route index element={<Navigate to="survey" replace />} />
          <Route path="survey" element={<SurveyFrame />}>
            <Route index element={<BikeSheet />} />
            <Route path="underside" element={<UndersideSheet />} />
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
          <Route path="kit" element={<Kit />} />
          <Route path="fit-up/:joint?" element={<Fitup />} />
          <Route path="tighten/:joint?" element={<Tighten />} />
          <Route path="keep" element={<Keep />} />
        </Route>
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </Suspense>
  );
}
