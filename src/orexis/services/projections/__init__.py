"""Summaries of takes, which plans and pages read: one class for each, kept in the transaction of the take that changes it.

| summary | tables |
|---|---|
| evidence | tries at notes, a sound to compare with, the columns of lists |
| ranges | the notes a player has, the range at the end of each day |
| practice days | takes, tone and load of a day |
| measures by day | the middle of each measure, by day and by week |
| notes by day | notes by the way they were played, for telling instrument from player |
| levels | exercises by day, and the level of each |

Each can be made again from the takes, and then is the same (tests/store/test_projections.py).
"""
