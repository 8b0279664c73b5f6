import { lazy, Suspense } from "react";
import { Navigate, Route, Routes } from "react-router";
import { JobFrame } from "./frame/JobFrame";
import { Waiting } from "./parts/States";
import { Fitup } from "./stations/Fitup";
import { Keep } from "./stations/Keep";
import { Kit } from "./stations/Kit";
import { Survey } from "./stations/Survey";
import { Tighten } from "./stations/Tighten";
import { Weighup } from "./stations/Weighup";
import { WorkList } from "./stations/WorkList";

const PartsPage = lazy(() =>
  import("./parts/PartsPage").then((module) => ({ default: module.PartsPage })),
);
const Garage = lazy(() => import("./garage/Garage"));

/** Every address of the application. */
export function App() {
  return (
    <Suspense fallback={<Waiting what="the screen" />}>
      <Routes>
        <Route path="/" element={<WorkList />} />
        <Route path="/parts" element={<PartsPage />} />
        <Route path="/jobs/:job/garage" element={<Garage />} />
        <Route path="/jobs/:job" element={<JobFrame />}>
          <Route index element={<Navigate to="survey" replace />} />
          <Route path="survey" element={<Survey />} />
          <Route path="weigh-up" element={<Weighup />} />
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
