"""A calendar read by the icalendar package, which knows nothing of this project.

python3 days.py FILE prints a JSON object: the calendar's name and its events.
"""

import json
import sys

import icalendar


def main(path):
    with open(path, "rb") as file:
        calendar = icalendar.Calendar.from_ical(file.read())
    events = []
    for event in calendar.walk("VEVENT"):
        begin, end = event["DTSTART"].dt, event["DTEND"].dt
        events.append({
            "uid": str(event["UID"]),
            "summary": str(event["SUMMARY"]),
            "text": str(event.get("DESCRIPTION", "")),
            "from": begin.strftime("%Y-%m-%dT%H:%M"),
            "to": end.strftime("%Y-%m-%dT%H:%M"),
            "zone": None if begin.tzinfo is None else str(begin.tzinfo),
        })
    json.dump({"name": str(calendar.get("X-WR-CALNAME", calendar.get("NAME"))), "events": events}, sys.stdout, ensure_ascii=False)


main(sys.argv[1])
