"""Registrable domains that HTML files link to, found with Python's standard library and Debian's copy of the suffix list.

Reads file names from standard input, prints the domains, one a line: of the files in FOLDER that are reached from START by links, without those that
the paths in FORBIDDEN (as robots.txt has them) keep out.
"""
import os
import re
import sys
from html.parser import HTMLParser
from urllib.parse import quote, unquote, urljoin, urlsplit

LIST = "/usr/share/publicsuffix/public_suffix_list.dat"


def read_rules():
    rules = set()
    with open(LIST, encoding="utf-8") as file:
        for line in file:
            if "===END ICANN DOMAINS===" in line:
                break
            rule = line.split("//")[0].strip()
            if rule:
                rules.add(rule)
    return rules


RULES = read_rules()


def registrable(labels):
    for size in range(len(labels), 0, -1):
        tail = labels[-size:]
        name = ".".join(tail)
        if "!" + name in RULES:
            return name
        if name in RULES or ".".join(["*"] + tail[1:]) in RULES:
            return ".".join(labels[-size - 1:]) if len(labels) > size else None
    return None


class Links(HTMLParser):
    def __init__(self):
        super().__init__(convert_charrefs=True)
        self.found = []

    def handle_starttag(self, tag, attributes):
        values = dict(attributes)
        if tag in ("a", "area") and values.get("href"):
            self.found.append(values["href"])
        elif tag in ("iframe", "frame") and values.get("src"):
            self.found.append(values["src"])


def domain_of(address):
    try:
        parts = urlsplit(address.strip())
        host = (parts.hostname or "").rstrip(".")
    except ValueError:
        return None
    if parts.scheme not in ("http", "https") or "." not in host or host.replace(".", "").isdigit():
        return None
    labels = host.encode("idna").decode().lower().split(".")
    return registrable(labels)


def forbids(pattern):
    """A path of robots.txt (RFC 9309, 2.2.3) as a regular expression."""
    is_end = pattern.endswith("$")
    body = ".*".join(re.escape(part) for part in pattern.rstrip("$").split("*"))
    return re.compile(body + ("$" if is_end else ""))


FOLDER = os.environ.get("FOLDER", "")
START = os.environ.get("START", "")
RULES_OUT = [forbids(line) for line in os.environ.get("FORBIDDEN", "").splitlines() if line]
names = set(sys.stdin.read().splitlines())


def is_allowed(path):
    return not any(rule.match(path) for rule in RULES_OUT)


def links_of(name):
    parser = Links()
    with open(os.path.join(FOLDER, name), encoding="utf-8", errors="replace") as file:
        parser.feed(file.read())
    return parser.found


def inside(name, address):
    """The file that a link within the manual leads to; None where it leads elsewhere."""
    try:
        parts = urlsplit(urljoin("http://manual.invalid/" + quote(name), address.strip()))
    except ValueError:
        return None
    if parts.hostname != "manual.invalid" or parts.query:
        return None
    path = unquote(parts.path).lstrip("/")
    return path + "index.html" if path == "" or path.endswith("/") else path


domains = set()
waiting = [START] if START else sorted(names)
seen = set(waiting)
while waiting:
    name = waiting.pop()
    if name not in names or not is_allowed("/" + name):
        continue
    for address in links_of(name):
        domain = domain_of("http:" + address if address.startswith("//") else address)
        if domain:
            domains.add(domain)
        target = inside(name, address) if START else None
        if target and target not in seen:
            seen.add(target)
            waiting.append(target)
print("\n".join(sorted(domains)))
