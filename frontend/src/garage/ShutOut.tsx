import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { useNavigate } from "react-router";
import { forgetSeen } from "../api/lastSeen";
import { isNow } from "../api/phones";

/** A phone that is let in no more goes back to where it can ask again. */
export function ShutOut() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  useEffect(() => {
    forgetSeen();
    isNow(queries, { is_phone: true, job: "", name: "" });
    void navigate("/pair", { replace: true });
  }, [queries, navigate]);
  return <p className="p-6">This phone is let in no more.</p>;
}
