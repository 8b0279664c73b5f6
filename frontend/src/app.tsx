import { Navigate, Route, Routes } from "react-router";
import { cameOverNetwork, useWho } from "./api/phones";
import { type Code, Late } from "./parts/Late";
import { Failed, Waiting } from "./parts/States";
import { WorkList } from "./worklist/WorkList";

const JobFrame: Code = { load: () => import("./frame/JobFrame").then((m) => m.JobFrame) };
const PartsPage: Code = { load: () => import("./parts/PartsPage").then((m) => m.PartsPage) };
const NewJob: Code = { load: () => import("./worklist/NewJob").then((m) => m.NewJob) };
const WhichBike: Code = { load: () => import("./worklist/WhichBike").then((m) => m.WhichBike) };
const WhichPlate: Code = {
  load: () => import("./worklist/WhichPlate").then((m) => m.WhichPlate),
};
const SurveyFrame: Code = {
  load: () => import("./stations/survey/SurveyFrame").then((m) => m.SurveyFrame),
};
const BikeSheet: Code = {
  load: () => import("./stations/survey/BikeSheet").then((m) => m.BikeSheet),
};
const NextSheet: Code = {
  load: () => import("./stations/survey/NextSheet").then((m) => m.NextSheet),
};
const PlatesSheet: Code = {
  load: () => import("./stations/survey/PlatesSheet").then((m) => m.PlatesSheet),
};
const SpaceSheet: Code = {
  load: () => import("./stations/survey/SpaceSheet").then((m) => m.SpaceSheet),
};
const StripSheet: Code = {
  load: () => import("./stations/survey/StripSheet").then((m) => m.StripSheet),
};
const UndersideSheet: Code = {
  load: () => import("./stations/survey/UndersideSheet").then((m) => m.UndersideSheet),
};
const WeighingSheet: Code = {
  load: () => import("./stations/survey/WeighingSheet").then((m) => m.WeighingSheet),
};
const WeighupFrame: Code = {
  load: () => import("./stations/weighup/WeighupFrame").then((m) => m.WeighupFrame),
};
const AnswerSheet: Code = {
  load: () => import("./stations/weighup/AnswerSheet").then((m) => m.AnswerSheet),
};
const SideBySide: Code = {
  load: () => import("./stations/weighup/SideBySide").then((m) => m.SideBySide),
};
const StrikeSheet: Code = {
  load: () => import("./stations/weighup/StrikeSheet").then((m) => m.StrikeSheet),
};
const CoverageSheet: Code = {
  load: () => import("./stations/weighup/CoverageSheet").then((m) => m.CoverageSheet),
};
const WhatIfSheet: Code = {
  load: () => import("./stations/weighup/WhatIfSheet").then((m) => m.WhatIfSheet),
};
const SchoolsSheet: Code = {
  load: () => import("./stations/weighup/SchoolsSheet").then((m) => m.SchoolsSheet),
};
const PrioritiesSheet: Code = {
  load: () => import("./stations/weighup/PrioritiesSheet").then((m) => m.PrioritiesSheet),
};
const NewFit: Code = { load: () => import("./worklist/NewFit").then((m) => m.NewFit) };
const KitFrame: Code = { load: () => import("./stations/kit/KitFrame").then((m) => m.KitFrame) };
const Kit: Code = { load: () => import("./stations/kit/Kit").then((m) => m.Kit) };
const JointsSheet: Code = {
  load: () => import("./stations/kit/JointsSheet").then((m) => m.JointsSheet),
};
const BuySheet: Code = { load: () => import("./stations/kit/BuySheet").then((m) => m.BuySheet) };
const ToolsSheet: Code = {
  load: () => import("./stations/kit/ToolsSheet").then((m) => m.ToolsSheet),
};
const PaperSheet: Code = {
  load: () => import("./stations/kit/PaperSheet").then((m) => m.PaperSheet),
};
const FitupFrame: Code = {
  load: () => import("./stations/fitup/FitupFrame").then((m) => m.FitupFrame),
};
const HolesSheet: Code = {
  load: () => import("./stations/fitup/HolesSheet").then((m) => m.HolesSheet),
};
const OrderSheet: Code = {
  load: () => import("./stations/fitup/OrderSheet").then((m) => m.OrderSheet),
};
const PiecesSheet: Code = {
  load: () => import("./stations/fitup/PiecesSheet").then((m) => m.PiecesSheet),
};
const NeighboursSheet: Code = {
  load: () => import("./stations/fitup/NeighboursSheet").then((m) => m.NeighboursSheet),
};
const ChangesSheet: Code = {
  load: () => import("./stations/fitup/ChangesSheet").then((m) => m.ChangesSheet),
};
const Fitup: Code = { load: () => import("./stations/fitup/Fitup").then((m) => m.Fitup) };
const Tighten: Code = { load: () => import("./stations/tighten/Tighten").then((m) => m.Tighten) };
const KeepFrame: Code = {
  load: () => import("./stations/keep/KeepFrame").then((m) => m.KeepFrame),
};
const DueSheet: Code = { load: () => import("./stations/keep/DueSheet").then((m) => m.DueSheet) };
const LogSheet: Code = { load: () => import("./stations/keep/LogSheet").then((m) => m.LogSheet) };
const BlowsSheet: Code = {
  load: () => import("./stations/keep/BlowsSheet").then((m) => m.BlowsSheet),
};
const RecheckSheet: Code = {
  load: () => import("./stations/keep/RecheckSheet").then((m) => m.RecheckSheet),
};
const BackSheet: Code = {
  load: () => import("./stations/keep/BackSheet").then((m) => m.BackSheet),
};

/** Keep's sheets, in its station and in garage mode. */
const keepSheets = (
  <>
    <Route index element={<Late code={DueSheet} />} />
    <Route path="log" element={<Late code={LogSheet} />} />
    <Route path="plate" element={<Late code={BlowsSheet} />} />
    <Route path="joints" element={<Late code={RecheckSheet} />} />
    <Route path="back" element={<Late code={BackSheet} />} />
  </>
);
const Garage: Code = { load: () => import("./garage/Garage").then((m) => m.default) };
const GarageKeep: Code = { load: () => import("./garage/GarageKeep").then((m) => m.default) };
const Pair: Code = { load: () => import("./garage/Pair").then((m) => m.Pair) };

function OnPhone({ job }: { job: string }) {
  return (
    <Routes>
      <Route path="/pair" element={<Late code={Pair} />} />
      <Route path="/jobs/:job/garage" element={<Late code={Garage} />} />
      <Route path="/jobs/:job/garage/keep" element={<Late code={GarageKeep} />}>
        {keepSheets}
      </Route>
      <Route path="*" element={<Navigate to={job ? `/jobs/${job}/garage` : "/pair"} replace />} />
    </Routes>
  );
}

/** Every address of the application; a phone that was let in has those of its job only. */
export function App() {
  const who = useWho();
  if (cameOverNetwork() && who.isPending) return <Waiting what="who you are" />;
  if (cameOverNetwork() && !who.data)
    return <Failed error={who.error} retry={() => void who.refetch()} />;
  if (who.data?.is_phone) return <OnPhone job={who.data.job} />;
  return (
    <Routes>
      <Route path="/" element={<WorkList />} />
      <Route path="/new" element={<Late code={NewJob} />} />
      <Route path="/new/which" element={<Late code={WhichBike} />} />
      <Route path="/new/fit" element={<Late code={NewFit} />} />
      <Route path="/parts" element={<Late code={PartsPage} />} />
      <Route path="/jobs/:job/garage" element={<Late code={Garage} />} />
      <Route path="/jobs/:job/garage/keep" element={<Late code={GarageKeep} />}>
        {keepSheets}
      </Route>
      <Route path="/jobs/:job/first" element={<Late code={WhichPlate} />} />
      <Route path="/jobs/:job" element={<Late code={JobFrame} />}>
        <Route index element={<Navigate to="survey" replace />} />
        <Route path="survey" element={<Late code={SurveyFrame} />}>
          <Route index element={<Late code={BikeSheet} />} />
          <Route path="underside" element={<Late code={UndersideSheet} />} />
          <Route path="space" element={<Late code={SpaceSheet} />} />
          <Route path="next" element={<Late code={NextSheet} />} />
          <Route path="plates/:plate?" element={<Late code={PlatesSheet} />} />
          <Route path="weighing" element={<Late code={WeighingSheet} />} />
          <Route path="strip" element={<Late code={StripSheet} />} />
        </Route>
        <Route path="weigh-up" element={<Late code={WeighupFrame} />}>
          <Route index element={<Late code={AnswerSheet} />} />
          <Route path="compare" element={<Late code={SideBySide} />} />
          <Route path="coverage" element={<Late code={CoverageSheet} />} />
          <Route path="strike" element={<Late code={StrikeSheet} />} />
          <Route path="what-if" element={<Late code={WhatIfSheet} />} />
          <Route path="schools" element={<Late code={SchoolsSheet} />} />
          <Route path="priorities" element={<Late code={PrioritiesSheet} />} />
        </Route>
        <Route path="kit" element={<Late code={KitFrame} />}>
          <Route index element={<Late code={Kit} />} />
          <Route path="joints" element={<Late code={JointsSheet} />} />
          <Route path="buy" element={<Late code={BuySheet} />} />
          <Route path="tools" element={<Late code={ToolsSheet} />} />
          <Route path="sheet" element={<Late code={PaperSheet} />} />
        </Route>
        <Route path="fit-up" element={<Late code={FitupFrame} />}>
          <Route path=":joint?" element={<Late code={Fitup} />} />
          <Route path="holes" element={<Late code={HolesSheet} />} />
          <Route path="order" element={<Late code={OrderSheet} />} />
          <Route path="pieces" element={<Late code={PiecesSheet} />} />
          <Route path="neighbours" element={<Late code={NeighboursSheet} />} />
          <Route path="changes" element={<Late code={ChangesSheet} />} />
        </Route>
        <Route path="tighten/:joint?" element={<Late code={Tighten} />} />
        <Route path="keep" element={<Late code={KeepFrame} />}>
          {keepSheets}
        </Route>
      </Route>
      <Route path="*" element={<Navigate to="/" replace />} />
    </Routes>
  );
}
