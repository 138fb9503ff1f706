"""A machine's controller, written from docs/controller-protocol.md alone.

It is driven over standard input, a JSON line at a time, so that a test sets its clock:
{"pass": ms, "sensors": {...}} · {"press": true} · {"connect": true}
and answers each with {"relay": bool, "left": seconds or null, "events": n, "readings": n}.
"""

import hashlib
import hmac
import json
import secrets
import sys
import threading

import paho.mqtt.client as mqtt

HOST, PORT, MACHINE, SERIAL, KEY, BOOT = sys.argv[1:7]
USER = sys.argv[7:9]


class Controller:
    def __init__(self):
        self.root = f"velvetgate/{MACHINE}/{SERIAL}"
        self.key = bytes.fromhex(KEY)
        self.boot = int(BOOT)
        self.lock = threading.RLock()
        self.line = None
        self.lease = None  # until, end, attention, limits
        self.question = None  # challenge, sent at
        self.relay = self.not_yours = self.stuck_told = False
        self.ms = self.asks_left = self.alone = self.off_at = self.told_at = self.events = self.readings = 0
        self.read_at = None
        self.sensors, self.heard, self.out_since, self.unseen = {}, {}, {}, []

    def seal(self, topic, text):
        return hmac.new(self.key, f"{topic}\n{text}".encode(), hashlib.sha256).hexdigest()

    def send(self, what, message, qos=1):
        if not self.line:
            return
        topic = f"{self.root}/up/{what}"
        text = json.dumps(message)
        self.line.publish(topic, f"{self.seal(topic, text)}\n{text}", qos)

    def connect(self):
        line = mqtt.Client(f"{MACHINE}:{SERIAL}:{self.boot}", clean_session=True)
        if USER:
            line.username_pw_set(*USER)
        line.will_set(f"{self.root}/up/presence", "gone", 1, retain=True)
        ready = threading.Event()
        line.on_subscribe, line.on_message = lambda *_: ready.set(), lambda _c, _u, m: self.receive(m)
        line.on_connect = lambda c, *_: c.subscribe(f"{self.root}/down/#", 1)
        line.connect(HOST, int(PORT))
        line.loop_start()
        if not ready.wait(5):
            raise SystemExit("no broker")
        line.publish(f"{self.root}/up/presence", "here", 1, retain=True)
        self.line, self.not_yours = line, False
        self.send("hello", {"boot": self.boot, "ms": self.ms})
        self.tell_unseen()

    def receive(self, message):
        payload = message.payload.decode(errors="replace")
        seal, _, text = payload.partition("\n")
        if message.retain or not hmac.compare_digest(seal, self.seal(message.topic, text)):
            return
        body = json.loads(text)
        with self.lock:
            what = message.topic.rsplit("/", 1)[1]
            if what == "ask" and not self.not_yours:
                self.asks_left = 3
                self.want()
            elif what == "grant":
                self.granted(body)
            elif what == "drop":
                self.off(body["why"])
            elif what == "seen" and body["boot"] == self.boot:
                self.unseen = [e for e in self.unseen if e["number"] > body["number"]]
                self.alone = 0
            elif what == "notYours":
                self.not_yours = True
                self.off("dropped")

    def want(self):
        self.asks_left -= 1
        self.question = (secrets.token_hex(16), self.ms)
        self.send("want", {"boot": self.boot, "ms": self.ms, "challenge": self.question[0]})

    def granted(self, grant):
        if not self.question or self.question[0] != grant["challenge"] or self.ms - self.question[1] > 5000:
            return
        sent, self.question, self.asks_left = self.question[1], None, 0
        end = sent + int(grant["endSeconds"] * 1000)
        until = min(sent + int(grant["seconds"] * 1000), end)
        new = (until, end, int(grant["attentionSeconds"] * 1000), grant)
        if self.relay:
            self.lease, self.alone = new, 0
            self.check()
        elif self.why_off(new) is None:
            self.lease, self.alone, self.relay, self.stuck_told = new, 0, True, False
            self.out_since.clear()
            self.tell("relayOn")

    def out(self, name, is_out):
        if not self.relay:
            return is_out is not False
        if is_out is False:
            self.out_since.pop(name, None)
        elif is_out:
            self.out_since.setdefault(name, self.ms)
        return name in self.out_since and self.ms - self.out_since[name] >= 3000

    def silent(self, name):
        return name not in self.heard or self.ms - self.heard[name] >= 30000

    def why_off(self, lease):
        until, end, _, limits = lease
        flow, coolant = self.sensors.get("airflowM3PerHour"), self.sensors.get("coolantC")
        if self.sensors.get("keyOut"):
            return "service.key"
        if self.ms >= end:
            return "permit.over"
        if self.ms >= until:
            return "attention.lapsed"
        if self.sensors.get("lidShut") is False or self.silent("lidShut") or (not self.relay and not self.sensors.get("lidShut")):
            return "beam.lid"
        if self.silent("airflowM3PerHour") or self.out("air", None if flow is None else flow < limits["airflowAtLeast"]):
            return "beam.readings"
        most, least, moves = limits.get("coolantAtMostC"), limits.get("coolantAtLeastC"), self.sensors.get("coolantLPerMin")
        if most is None and least is None:
            return None
        bad = None if coolant is None else (coolant > (most or 999) or coolant < (least or -999) or (moves is not None and moves <= 0))
        return "beam.readings" if self.silent("coolantC") or self.out("coolant", bad) else None

    def check(self):
        if self.relay and (why := self.why_off(self.lease)):
            self.off(why)

    def off(self, why):
        self.question, self.asks_left, self.lease = None, 0, None
        if self.relay:
            self.relay, self.off_at = False, self.ms
            self.tell("relayOff", why)

    def press(self):
        self.check()
        if self.relay and self.alone < 3:
            self.alone += 1
            until, end, attention, limits = self.lease
            self.lease = (min(self.ms + attention, end), end, attention, limits)
        self.tell("press")

    def tell(self, kind, value=None):
        self.events += 1
        self.unseen.append({"boot": self.boot, "number": self.events, "ms": self.ms, "kind": kind, "value": value})
        self.tell_unseen()

    def tell_unseen(self):
        self.told_at = self.ms
        for event in self.unseen:
            self.send("event", event)

    def step(self, ms, sensors):
        self.ms += ms
        before, self.sensors = self.sensors, sensors
        for name, value in sensors.items():
            if value is not None:
                self.heard[name] = self.ms
        if sensors.get("lidShut") is not None and sensors["lidShut"] != before.get("lidShut"):
            self.tell("lidShut" if sensors["lidShut"] else "lidOpened")
        if bool(sensors.get("keyOut")) != bool(before.get("keyOut")):
            self.tell("keyOut" if sensors["keyOut"] else "keyBack")
        self.check()
        if sensors.get("tubeOn") and not self.relay and not sensors.get("keyOut") and self.ms - self.off_at >= 1000 and not self.stuck_told:
            self.stuck_told = True
            self.tell("stuck")
        if self.read_at is None or self.ms - self.read_at >= 1000:
            self.read_at = self.ms
            self.readings += 1
            self.send("readings", {"boot": self.boot, "number": self.readings, "ms": self.ms, "beam": self.relay, "sensors": sensors}, 0)
        if self.asks_left and (not self.question or self.ms - self.question[1] >= 2000):
            self.want()
        if self.unseen and self.ms - self.told_at >= 2000:
            self.tell_unseen()


box = Controller()
for line in sys.stdin:
    command = json.loads(line)
    with box.lock:
        if "pass" in command:
            box.step(command["pass"], command["sensors"])
        elif "press" in command:
            box.press()
        elif "connect" in command:
            box.connect()
        left = (box.lease[0] - box.ms) / 1000 if box.relay else None
        print(json.dumps({"relay": box.relay, "left": left, "events": box.events, "readings": box.readings}), flush=True)
