"""What stands around every screen of a job: ledger, stations, what is next."""

from rugged_shield.core.assess.frame.assessment import Assessment, PlateSaid, assessment, plate_said
from rugged_shield.core.assess.frame.ledger import LedgerLine, ledger, marked
from rugged_shield.core.assess.frame.next_act import NextAct, next_act
from rugged_shield.core.assess.frame.stations import StationState, standing, station_states

__all__ = [
    "Assessment",
    "LedgerLine",
    "NextAct",
    "PlateSaid",
    "StationState",
    "assessment",
    "ledger",
    "marked",
    "next_act",
    "plate_said",
    "standing",
    "station_states",
]
