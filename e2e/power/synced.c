/*
 * What is on disk when the power goes, at the least: a folder beside a data folder that gets a file's content only when it is synced.
 * Loaded before a program's own libraries (LD_PRELOAD). POWER_FROM names the data folder, POWER_TO the other.
 */
#define _GNU_SOURCE
#include <dlfcn.h>
#include <fcntl.h>
#include <limits.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

/* Where a path of the data folder stands beside it; 0: it is none of its. */
static int beside(const char *path, char *to) {
  const char *from = getenv("POWER_FROM"), *other = getenv("POWER_TO");
  if (!from || !other || strncmp(path, from, strlen(from)) != 0 || path[strlen(from)] != '/') return 0;
  snprintf(to, PATH_MAX, "%s%s", other, path + strlen(from));
  return 1;
}

static void keep(int fd) {
  char link[64], path[PATH_MAX], to[PATH_MAX], next[PATH_MAX + 8], part[65536];
  snprintf(link, sizeof link, "/proc/self/fd/%d", fd);
  ssize_t length = readlink(link, path, sizeof path - 1);
  if (length <= 0) return;
  path[length] = 0;
  struct stat found;
  if (!beside(path, to) || fstat(fd, &found) != 0 || !S_ISREG(found.st_mode)) return;
  snprintf(next, sizeof next, "%s.synced", to);
  int source = open(path, O_RDONLY), target = open(next, O_WRONLY | O_CREAT | O_TRUNC, 0600);
  if (source < 0 || target < 0) abort();
  ssize_t read_now;
  while ((read_now = read(source, part, sizeof part)) > 0)
    if (write(target, part, read_now) != read_now) abort();
  close(source);
  close(target);
  /* whole or not at all, as a disk of which each sector is */
  int (*move)(const char *, const char *) = (int (*)(const char *, const char *))dlsym(RTLD_NEXT, "rename");
  if (move(next, to) != 0) abort();
}

int fsync(int fd) {
  int (*real)(int) = (int (*)(int))dlsym(RTLD_NEXT, "fsync");
  int result = real(fd);
  if (result == 0) keep(fd);
  return result;
}

int fdatasync(int fd) {
  int (*real)(int) = (int (*)(int))dlsym(RTLD_NEXT, "fdatasync");
  int result = real(fd);
  if (result == 0) keep(fd);
  return result;
}

int rename(const char *from, const char *to) {
  int (*real)(const char *, const char *) = (int (*)(const char *, const char *))dlsym(RTLD_NEXT, "rename");
  int result = real(from, to);
  char from_beside[PATH_MAX], to_beside[PATH_MAX];
  if (result == 0 && beside(from, from_beside) && beside(to, to_beside)) real(from_beside, to_beside);
  return result;
}
