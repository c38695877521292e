"""Sittings: what is asked, by what terms it is judged, and where it stands."""

from orexis.services.sessions.values import PracticeSession, SessionSummary

__all__ = ["PracticeSession", "SessionSummary"]
